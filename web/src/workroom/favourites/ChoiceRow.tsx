import type { Api } from '../../api/client'
import { w } from '../../words'
import { choiceLine } from '../shell/choiceLine'

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
    <li className="border-b border-line">
      <button
        type="button"
        aria-current={isOpen || undefined}
        aria-label={w.favourites.open(name, albumName)}
        className={`grid w-full gap-0.5 border-l-3 py-2.5 pl-3 text-left ${isOpen ? 'border-plum' : 'border-transparent hover:border-strong-line'}`}
        onClick={onOpen}
      >
        <span className="flex min-w-0 items-baseline gap-2">
          <span className={`min-w-0 truncate ${isNew || isOpen ? 'font-semibold' : ''}`}>{name}</span>
          {isNew && <span className="text-small font-semibold text-plum">{w.favourites.isNew}</span>}
          <span className="ml-auto text-small whitespace-nowrap text-quiet">
            {isMember ? w.favourites.member : w.favourites.client}
          </span>
        </span>
        <span className="truncate text-small text-quiet">{w.favourites.of(albumName)}</span>
        <span className="text-small text-quiet">{choiceLine(choice)}</span>
      </button>
    </li>
  )
}
