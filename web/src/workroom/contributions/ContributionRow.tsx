import type { Api } from '../../api/client'
import { w } from '../../words'
import { moment } from '../shell/format'
import { OpenRow } from '../shell/ListAndOne'
import { pictureOf } from './data'

/** Who sent what in, and where that stands. */
export function ContributionRow({
  contribution: c,
  isOpen,
  onOpen,
}: {
  contribution: Api['ContributionLine']
  isOpen: boolean
  onOpen: () => void
}) {
  return (
    <OpenRow label={w.contributions.open(c.name, moment(c.sent))} isOpen={isOpen} onOpen={onOpen}>
      <span className="flex min-w-0 items-baseline gap-2">
        <span className={`min-w-0 truncate ${c.waiting > 0 || isOpen ? 'font-semibold' : ''}`}>{c.name}</span>
        <span className="ml-auto text-small whitespace-nowrap text-quiet">{moment(c.sent)}</span>
      </span>
      <span className="truncate text-small text-quiet">
        {c.link ? w.contributions.by(c.link) : w.contributions.ofOwnAccord}
        {', '}
        {w.contributions.standing(c.waiting, c.accepted, c.refused, c.withdrawn)}
      </span>
      <span className="mt-1 flex h-12 gap-[3px]" aria-hidden>
        {c.photos.map((photo) => (
          <img
            key={photo}
            src={pictureOf(photo, 480)}
            alt=""
            loading="lazy"
            className="h-12 w-[3.4rem] object-cover"
          />
        ))}
      </span>
    </OpenRow>
  )
}
