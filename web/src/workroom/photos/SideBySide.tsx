import { Link } from '@tanstack/react-router'
import { type PointerEvent, type ReactNode, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'

/** Where all pictures are looked at: shares of their width and height, or whole. */
type Spot = { x: number; y: number } | null

/** What of a photo is needed to stand beside others. */
type Beside = Pick<
  Api['SheetPhoto'],
  'id' | 'picture' | 'fileName' | 'title' | 'width' | 'height' | 'renditions'
>

const zoom = 3.2

/** Photos beside one another at the same zoom and the same spot, each with what tells it from the others. */
export function SideBySide<Photo extends Beside>({
  photos,
  focus,
  marked,
  beneath,
  onFocus,
}: {
  photos: readonly Photo[]
  focus: number
  /** Which ones stand out, as kept or as in hand. */
  marked: (photo: Photo) => boolean
  /** What stands beneath a photo's name. */
  beneath: (photo: Photo, index: number) => ReactNode
  onFocus: (index: number) => void
}) {
  const [spot, setSpot] = useState<Spot>(null)
  const columns = Math.min(photos.length, photos.length === 4 ? 2 : 3)
  function at(e: PointerEvent<HTMLElement>): Spot {
    const box = e.currentTarget.getBoundingClientRect()
    return { x: (e.clientX - box.left) / box.width, y: (e.clientY - box.top) / box.height }
  }
  return (
    <>
      <p className="mt-2 flex justify-between text-small text-quiet">
        {w.repeats.zoom}
        {spot && (
          <Button look="word" onClick={() => setSpot(null)}>
            {w.repeats.whole}
          </Button>
        )}
      </p>
      <ul
        className="mt-4 grid gap-x-5 gap-y-7"
        style={{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))` }}
      >
        {photos.map((p, i) => {
          const widest = p.renditions.filter((r) => r <= 1600).at(-1) ?? 480
          return (
            <li key={p.id}>
              <button
                type="button"
                aria-label={spot ? w.repeats.whole : w.repeats.zoom}
                className={`block w-full overflow-hidden bg-well ${spot ? 'cursor-zoom-out' : 'cursor-zoom-in'}`}
                style={{ aspectRatio: `${p.width} / ${p.height}` }}
                onClick={(e) => {
                  onFocus(i)
                  setSpot(spot ? null : at(e as unknown as PointerEvent<HTMLElement>))
                }}
                onPointerMove={(e) => spot && setSpot(at(e))}
              >
                <img
                  src={rendition(p.picture, spot ? widest : (p.renditions.find((r) => r >= 480) ?? 480))}
                  width={p.width}
                  height={p.height}
                  alt={p.title || p.fileName}
                  draggable={false}
                  className="h-auto w-full"
                  style={
                    spot
                      ? { transform: `scale(${zoom})`, transformOrigin: `${spot.x * 100}% ${spot.y * 100}%` }
                      : undefined
                  }
                />
              </button>
              <div
                className={`mt-1.5 border-t-[3px] pt-1.5 text-small ${marked(p) ? 'border-plum' : 'border-line'}`}
              >
                <Link
                  to="/workroom/photos"
                  search={{ photo: p.id }}
                  className={`block truncate hover:underline ${focus === i ? 'font-semibold' : ''}`}
                  title={w.repeats.open}
                >
                  {p.title || p.fileName}
                </Link>
                {beneath(p, i)}
              </div>
            </li>
          )
        })}
      </ul>
    </>
  )
}
