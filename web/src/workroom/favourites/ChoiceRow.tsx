import type { Api } from '../../api/client'
import { w } from '../../words'
import { choiceLine } from '../shell/choiceLine'
import { OpenRow } from '../shell/ListAndOne'

/** Who chose, of which album, and where that stands. */
export function ChoiceRow({
  choice,
  isOpen,
  onOpen,
}: {
  choice: Api['ChoiceLine']
  isOpen: boolean
  onOpen: () => void
}) {
  const { name, albumName, isMember } = choice
  const isNew = choice.sent !== null && !choice.isNoted
  return (
    <OpenRow label={w.favourites.open(name, albumName)} isOpen={isOpen} onOpen={onOpen}>
      <span className="flex min-w-0 items-baseline gap-2">
        <span className={`min-w-0 truncate ${isNew || isOpen ? 'font-semibold' : ''}`}>{name}</span>
        {isNew && <span className="text-small font-semibold text-plum">{w.favourites.isNew}</span>}
        <span className="ml-auto text-small whitespace-nowrap text-quiet">
          {isMember ? w.favourites.member : w.favourites.client}
        </span>
      </span>
      <span className="truncate text-small text-quiet">{w.favourites.of(albumName)}</span>
      <span className="text-small text-quiet">{choiceLine(choice)}</span>
    </OpenRow>
  )
}
