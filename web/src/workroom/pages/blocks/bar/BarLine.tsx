import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { w } from '../../../../words'
import { Toggle } from '../Parts'
import type { BarButton } from './bar'

/** One button of a filter bar: dragged by its handle or moved by keys, its words typed where they stand. */
export function BarLine({
  id,
  button,
  name,
  onSay,
  onStep,
  onRemove,
}: {
  id: string
  button: BarButton
  /** What the thing is called that it is for. */
  name: string
  onSay: (button: BarButton) => void
  onStep: (by: -1 | 1) => void
  onRemove: () => void
}) {
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({ id })
  const each = button.kind === 'eachAlbum'
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition: transition ?? '' }}
      className={`flex items-baseline gap-x-2.5 ${isDragging ? 'relative z-10 bg-raised shadow-float' : ''}`}
    >
      <button
        type="button"
        {...attributes}
        {...listeners}
        data-button={id}
        aria-label={w.bar.drag(name)}
        title={w.bar.dragHow}
        className="min-w-4 cursor-grab touch-none text-quiet hover:text-ink active:cursor-grabbing"
        onKeyDown={(e) => {
          if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
            e.preventDefault()
            onStep(e.key === 'ArrowUp' ? -1 : 1)
          } else listeners?.onKeyDown?.(e)
        }}
      >
        <span aria-hidden>↕</span>
      </button>
      {each ? (
        <span className="min-w-0 flex-1 font-semibold" title={w.bar.eachHow}>
          {name}
        </span>
      ) : (
        <span className="min-w-0 flex-1">
          <input
            value={button.words}
            aria-label={w.bar.wording(name)}
            placeholder={name}
            maxLength={60}
            className="in-place font-semibold placeholder:text-ink"
            onChange={(e) => onSay({ ...button, words: e.target.value })}
          />
        </span>
      )}
      {button.words !== '' && <span className="max-w-16 shrink truncate text-quiet">{name}</span>}
      {button.kind === 'category' && (
        <Toggle
          on={button.beneath}
          words={w.bar.beneath}
          label={w.bar.beneathHow(name)}
          onSay={(beneath) => onSay({ ...button, beneath })}
        />
      )}
      {!each && (
        <Toggle
          on={button.preset}
          words={w.bar.preset}
          label={w.bar.presetHow(name)}
          onSay={(preset) => onSay({ ...button, preset })}
        />
      )}
      <button
        type="button"
        aria-label={w.bar.takeOff(name)}
        title={w.bar.takeOff(name)}
        className="px-1 text-quiet hover:text-ink"
        onClick={onRemove}
      >
        ✕
      </button>
    </li>
  )
}
