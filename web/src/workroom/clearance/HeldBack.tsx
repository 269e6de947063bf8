import { Link } from '@tanstack/react-router'
import type { Api } from '../../api/client'
import { w } from '../../words'
import { searchFrom } from '../narrowings/kept'

/** Photos that no visitor sees for want of clearance; pressed, they are shown on the sheet. */
export function HeldBack({ held }: { held: Api['HeldPhotos'] }) {
  return (
    <Link
      to="/workroom/photos"
      search={searchFrom(held.search)}
      className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
    >
      {w.clearance.heldBack(held.count)}
    </Link>
  )
}

/** The same of a whole page, each once, however many of its blocks ask for the same photos. */
export function HeldOnPage({ notes }: { notes: Api['PageNotes'] | null }) {
  const held = new Map(notes?.blocks.flatMap((b) => (b.held ? [[b.held.search, b.held] as const] : [])))
  if (held.size === 0) return null
  return (
    <ul className="mt-2 grid gap-1.5 text-small">
      {[...held.values()].map((each) => (
        <li key={each.search}>
          <HeldBack held={each} />
        </li>
      ))}
    </ul>
  )
}
