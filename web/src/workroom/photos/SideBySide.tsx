import { Link } from '@tanstack/react-router'
import { type PointerEvent, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { bytes, takenAt } from '../shell/format'

/** Where all pictures are looked at: shares of their width and height, or whole. */
type Spot = { x: number; y: number } | null

const zoom = 3.2

/** Photos beside one another at the same zoom and the same spot, each with what tells it from the others. */
export function SideBySide({
  photos,
  keep,
  focus,
  sharpest,
  largest,
  onToggle,
  onFocus,
}: {
  photos: readonly Api['RepeatPhoto'][]
  keep: readonly string[]
  focus: number
  sharpest: string
  largest: string | null
  onToggle: (id: string) => void
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
          const kept = keep.includes(p.id)
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
                  src={rendition(p.hash, spot ? widest : (p.renditions.find((r) => r >= 480) ?? 480))}
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
                className={`mt-1.5 grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 pt-1.5 text-small ${kept ? 'border-t-[3px] border-plum' : 'border-t-[3px] border-line'}`}
              >
                <Link
                  to="/workroom/photos"
                  search={{ photo: p.id }}
                  className={`truncate hover:underline ${focus === i ? 'font-semibold' : ''}`}
                  title={w.repeats.open}
                >
                  {p.title || p.fileName}
                </Link>
                <Button
                  look="word"
                  aria-pressed={kept}
                  hint={focus === i ? 'Space' : ''}
                  onClick={() => onToggle(p.id)}
                >
                  {kept ? w.repeats.keeping : w.repeats.leaving}
                </Button>
                <span className="col-span-2 text-quiet tabular-nums">
                  {p.width} × {p.height}, {bytes(p.bytes)}
                  {largest === p.id && <strong className="text-ink">, {w.repeats.largest}</strong>}
                </span>
                <span className="col-span-2 text-quiet tabular-nums">
                  {[
                    p.taken && takenAt(p.taken),
                    p.sharpness !== null && w.repeats.sharpness(p.sharpness.toFixed(1)),
                  ]
                    .filter(Boolean)
                    .join(', ')}
                  {sharpest === p.id && p.sharpness !== null && (
                    <strong className="text-ink">, {w.repeats.sharpest}</strong>
                  )}
                </span>
              </div>
            </li>
          )
        })}
      </ul>
    </>
  )
}
