import { Link } from '@tanstack/react-router'
import type { Api } from '../../api/client'
import { w } from '../../words'
import { choiceLine } from '../shell/choiceLine'

/** Favourites that visitors have sent and nobody has taken note of. */
export function SentFavourites({ sent, all }: { sent: readonly Api['ChoiceLine'][]; all: number }) {
  return (
    <ul>
      {sent.map((choice) => (
        <li key={choice.id} className="border-b border-line py-1.5 last:border-0">
          <Link
            to="/workroom/favourites"
            search={{ choice: choice.id }}
            className="underline decoration-strong-line decoration-1 underline-offset-4"
          >
            {w.favourites.sentBy(choice.name, choice.albumName)}
          </Link>
          <span className="block text-small text-quiet">{choiceLine(choice)}</span>
        </li>
      ))}
      {all > sent.length && <li className="pt-1.5 text-quiet">{w.favourites.others(all - sent.length)}</li>}
    </ul>
  )
}
