import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { w } from '../../words'
import type { Option } from './data'
import { OptionSettings } from './OptionSettings'
import { PriceField } from './PriceField'

/** An option of the list: what it is called, leader dots, its price; pressed, all that is said of it opens beneath. */
export function OptionLine({
  option,
  called,
  stays,
  heading,
  notes,
  fault,
  open,
  onOpen,
  onSay,
  onRemove,
}: {
  option: Option
  called: string
  /** What the seller keeps of it, in words. */
  stays: string
  /** The heading that begins here; empty for none. */
  heading: string
  notes: readonly string[]
  fault: string | undefined
  open: boolean
  onOpen: () => void
  onSay: (next: Partial<Option>) => void
  onRemove: () => void
}) {
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: option.id,
  })
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition: transition ?? '' }}
      className={isDragging ? 'relative z-10 bg-raised shadow-float' : ''}
    >
      {heading && <h2 className="mt-6 mb-1 text-lead">{heading}</h2>}
      <div className="flex items-baseline gap-x-2 py-[5px]">
        <button
          type="button"
          {...attributes}
          {...listeners}
          aria-label={w.prices.drag(called)}
          title={w.blocks.dragHow}
          className="-ml-1 min-h-6 cursor-grab touch-none px-1 text-quiet hover:text-ink active:cursor-grabbing"
        >
          ⋮⋮
        </button>
        <button
          type="button"
          aria-expanded={open}
          aria-label={w.prices.open(called)}
          onClick={onOpen}
          className={`min-h-6 min-w-0 truncate text-left decoration-strong-line underline-offset-4 hover:underline ${option.isOff ? 'text-quiet line-through' : open ? 'font-semibold' : ''}`}
        >
          {called}
        </button>
        <span
          className="min-w-4 flex-1 translate-y-[-3px] border-b border-dotted border-strong-line"
          aria-hidden
        />
        {(option.breaks ?? []).length > 0 && (
          <span className="shrink-0 text-small text-quiet tabular-nums">
            {(option.breaks ?? []).map((b) => w.prices.breakShort(b.from, b.each)).join(' · ')}
          </span>
        )}
        <PriceField
          label={w.prices.price(called)}
          value={option.price ?? ''}
          hint={w.prices.noPrice}
          column="price"
          invalid={!!fault}
          className="w-24 shrink-0 text-right font-semibold tabular-nums"
          onSay={(price) => onSay({ price })}
        />
      </div>
      {fault && <p className="pb-1 pl-[2.625rem] text-small font-semibold">{fault}</p>}
      {notes.map((note) => (
        <p key={note} className="pb-1 pl-[2.625rem] text-small text-quiet">
          {note}
        </p>
      ))}
      {open && <OptionSettings option={option} stays={stays} onSay={onSay} onRemove={onRemove} />}
    </li>
  )
}
