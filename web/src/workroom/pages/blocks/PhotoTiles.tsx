import type { ReactNode } from 'react'
import { Button } from '../../../kit/Button'
import { rendition } from '../../../kit/renditions'
import { w } from '../../../words'

/** Photos to be pressed, as many side by side as there is room for. */
export function PhotoTiles({ children }: { children: ReactNode }) {
  return (
    <ul className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(7.5rem,1fr))] gap-3 text-small">
      {children}
    </ul>
  )
}

/** A photo that is pressed to choose it, and again to let it go. */
export function PhotoTile({
  picture,
  name,
  on,
  faded = false,
  note,
  onPress,
}: {
  picture: string
  name: string
  on: boolean
  faded?: boolean
  note?: string | undefined
  onPress: () => void
}) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={on}
        className={`block w-full p-1.5 text-left ${on ? 'bg-plum-wash outline-2 outline-plum' : 'hover:bg-well'}`}
        onClick={onPress}
      >
        <span className="flex h-20 items-end justify-center">
          <img
            src={rendition(picture, 480)}
            alt=""
            loading="lazy"
            className={`max-h-20 w-auto max-w-full ${faded ? 'opacity-35' : ''}`}
          />
        </span>
        <span className="mt-1 block truncate">{name}</span>
        {note && <span className="block text-quiet">{note}</span>}
      </button>
    </li>
  )
}

/** Leads through the parts of many photos; nothing where there is one part. */
export function PhotoParts({
  from,
  step,
  total,
  onFrom,
}: {
  /** The first that is shown, from 0. */
  from: number
  step: number
  total: number
  onFrom: (from: number) => void
}) {
  if (total <= step) return null
  return (
    <p className="mt-4 flex items-baseline gap-5 text-small">
      <Button look="word" disabled={from === 0} onClick={() => onFrom(from - step)}>
        {w.source.earlier}
      </Button>
      <span className="text-quiet tabular-nums">
        {w.source.span(from + 1, Math.min(total, from + step), total)}
      </span>
      <Button look="word" disabled={from + step >= total} onClick={() => onFrom(from + step)}>
        {w.source.further}
      </Button>
    </p>
  )
}
