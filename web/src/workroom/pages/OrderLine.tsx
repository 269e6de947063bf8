import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import type { ReactNode } from 'react'
import type { Api } from '../../api/client'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import type { Block } from './blocks/blocks'
import { saysOf } from './says'

/**
 * One line of the running order: what the block is, leader dots, what it shows. Pressed, its settings open beneath it; dragged by
 * its number, or with Alt and the arrows, it moves.
 */
export function OrderLine({
  block,
  number,
  title,
  notes,
  open,
  inner = false,
  onOpen,
  onStep,
  onRemove,
  children,
}: {
  block: Block
  /** Its place on the page, from 1. */
  number: number
  title: string
  notes: Api['BlockNotes'] | undefined
  open: boolean
  /** It stands side by side with others, within another line. */
  inner?: boolean
  onOpen: () => void
  onStep: (by: -1 | 1) => void
  onRemove: () => void
  /** What is open beneath it. */
  children?: ReactNode
}) {
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: block.id,
    disabled: inner,
  })
  const says = saysOf(block, title, notes)
  const name = w.blocks.names[block.kind]
  const noted =
    notes &&
    !open &&
    (notes.shows === 0 ||
      notes.leadsNowhere ||
      notes.held ||
      notes.blurred > 0 ||
      notes.over?.isEnough === false)
  return (
    <li
      ref={setNodeRef}
      data-line={block.id}
      style={{ transform: CSS.Translate.toString(transform), transition: transition ?? '' }}
      className={`${inner ? '' : 'border-t border-line'} ${open && !inner ? 'border-t-2 border-t-plum' : ''} ${isDragging ? 'relative z-10 bg-raised shadow-float' : ''}`}
    >
      <div
        className={`grid items-center ${inner ? 'grid-cols-[minmax(0,1fr)]' : 'grid-cols-[1.6rem_minmax(0,1fr)]'}`}
      >
        {!inner && (
          <button
            type="button"
            {...attributes}
            {...listeners}
            aria-label={`${w.blocks.drag(name)}, ${number}`}
            title={w.blocks.dragHow}
            className={`min-h-8 cursor-grab text-left text-small font-semibold tabular-nums touch-none active:cursor-grabbing ${open ? 'text-plum' : 'text-quiet hover:text-ink'}`}
          >
            {number}
          </button>
        )}
        <button
          type="button"
          aria-expanded={open}
          aria-label={`${w.blocks.open(name)}: ${says.figure ?? ''} ${says.words}`}
          className={`group flex min-w-0 items-center gap-2 text-left ${inner ? 'py-1' : 'py-2'}`}
          onClick={onOpen}
          onKeyDown={(e) => {
            if (e.altKey && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
              e.preventDefault()
              onStep(e.key === 'ArrowUp' ? -1 : 1)
            }
            if (e.key === 'Delete') onRemove()
          }}
        >
          <span
            className={`whitespace-nowrap ${open ? 'font-semibold text-plum' : 'group-hover:underline group-hover:decoration-strong-line group-hover:underline-offset-4'}`}
          >
            {name}
          </span>
          <span
            aria-hidden
            className="min-w-4 flex-1 translate-y-[5px] border-b border-dotted border-strong-line"
          />
          {noted && <span aria-hidden className="size-[7px] shrink-0 rotate-45 bg-plum" />}
          <span className="min-w-0 truncate text-quiet">
            {says.figure && <strong className="font-semibold text-ink tabular-nums">{says.figure} </strong>}
            {says.words}
          </span>
          {notes?.picture && (
            <img
              src={rendition(notes.picture, 480)}
              alt=""
              loading="lazy"
              className="ml-1 h-6 w-9 shrink-0 object-cover"
            />
          )}
        </button>
      </div>
      {children && (
        <div className={`settings grid gap-1.5 pb-3 text-small ${inner ? '' : 'pl-[1.6rem]'}`}>
          {children}
        </div>
      )}
    </li>
  )
}
