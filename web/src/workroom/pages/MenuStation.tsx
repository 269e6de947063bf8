import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core'
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { useQuery } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { useSortSensors } from '../../kit/useSortSensors'
import { w } from '../../words'
import { useAlbums, useCategories, usePages } from '../shell/data'
import { StaleVerbs } from '../shell/Stale'
import { Empty, Heading } from '../shell/Station'
import { LinkSentence } from './blocks/LinkSentence'
import type { Line } from './menu'
import { useMenu } from './useMenu'

/** The site's menu: its entries in their order, with words of their own, one level beneath others. */
export function MenuStation() {
  const menu = useQuery({
    queryKey: ['menu'],
    queryFn: () => body(api.GET('/api/menu'), w.errors.away),
  })
  if (menu.error && !menu.data) return <p className="p-10">{menu.error.message}</p>
  return menu.data ? <Arranged menu={menu.data} /> : null
}

function Arranged({ menu }: { menu: Api['OpenedMenu'] }) {
  const { all, state, faults, change, takeTheirs, overwrite } = useMenu(menu)
  const sensors = useSortSensors()
  const at = (id: unknown) => all.findIndex((l) => l.entry.id === id)
  function drop({ active, over }: DragEndEvent) {
    if (!over || active.id === over.id) return
    const next = [...all]
    const [one] = next.splice(at(active.id), 1)
    if (one) next.splice(at(over.id), 0, one)
    change(next)
  }
  const say = (line: Line) => change(all.map((l) => (l.entry.id === line.entry.id ? line : l)))
  function add() {
    const link = { kind: 'page', thing: null, address: '' } as const
    change([...all, { entry: { id: crypto.randomUUID(), words: '', link, entries: [] }, beneath: false }])
  }
  return (
    <div className="settings px-[30px] pt-7 pb-16">
      <Heading title={w.menu.title} lead={w.menu.lead} />
      {all.length === 0 && <Empty title={w.menu.none} lead={w.menu.noneLead} />}
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={all.map((l) => l.entry.id)} strategy={verticalListSortingStrategy}>
          <ol className="mt-6 max-w-[60rem] border-b border-line empty:border-0">
            {all.map((line, i) => (
              <MenuLine
                key={line.entry.id}
                line={line}
                first={i === 0}
                fault={faults[line.entry.id]}
                onSay={say}
                onRemove={() => change(all.filter((l) => l !== line))}
              />
            ))}
          </ol>
        </SortableContext>
      </DndContext>
      <p className="mt-4 flex flex-wrap items-baseline gap-x-5">
        <Button look={all.length === 0 ? 'next' : 'plain'} onClick={add}>
          {w.menu.add}
        </Button>
        <span role="status" className="text-small text-quiet">
          {state === 'saved'
            ? all.length > 0
              ? w.menu.saved
              : ''
            : state === 'stale'
              ? w.menu.stale
              : w.plate.unsaved}
        </span>
        {state === 'stale' && (
          <StaleVerbs onReload={() => void takeTheirs()} onOverwrite={() => void overwrite()} />
        )}
        {faults.entries && state !== 'stale' && (
          <span className="text-small font-semibold">{faults.entries}</span>
        )}
      </p>
    </div>
  )
}

/** One entry, read as a sentence: what it says, where it leads. */
function MenuLine({
  line,
  first,
  fault,
  onSay,
  onRemove,
}: {
  line: Line
  first: boolean
  fault: string | undefined
  onSay: (line: Line) => void
  onRemove: () => void
}) {
  const { entry, beneath } = line
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: entry.id,
  })
  const called = useNameOf(entry.link)
  const name = entry.words || called?.name || w.menu.entry
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition: transition ?? '' }}
      className={`border-t border-line py-2 ${beneath && !first ? 'pl-10' : ''} ${isDragging ? 'relative z-10 bg-raised shadow-float' : ''}`}
    >
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <button
          type="button"
          {...attributes}
          {...listeners}
          aria-label={w.menu.drag(name)}
          title={w.blocks.dragHow}
          className="min-h-6 cursor-grab touch-none px-1 text-quiet hover:text-ink active:cursor-grabbing"
        >
          ⋮⋮
        </button>
        <input
          aria-label={w.menu.words}
          placeholder={called?.name ?? w.menu.asCalled}
          value={entry.words}
          maxLength={60}
          className="min-w-40 border-b border-strong-line bg-transparent font-display text-lead font-semibold outline-none [field-sizing:content] focus:border-plum"
          onChange={(e) => onSay({ ...line, entry: { ...entry, words: e.target.value } })}
        />
        <span className="text-quiet">{w.menu.leads}</span>
        <LinkSentence
          files={false}
          link={entry.link}
          onSay={(link) => onSay({ ...line, entry: { ...entry, link } })}
        />
        <span className="ml-auto flex gap-4 text-small">
          {!first && (
            <Button look="word" onClick={() => onSay({ ...line, beneath: !beneath })}>
              {beneath ? w.menu.out : w.menu.beneath}
            </Button>
          )}
          <Button look="word" onClick={onRemove}>
            {w.menu.remove}
          </Button>
        </span>
      </div>
      {called?.hidden && <p className="pl-8 text-small text-quiet">{w.menu.private}</p>}
      {fault && <p className="pl-8 text-small font-semibold">{fault}</p>}
    </li>
  )
}

/** What a link leads to is called, and whether visitors cannot open it. */
function useNameOf(link: Api['LinkTo']): { name: string; hidden: boolean } | undefined {
  const pages = usePages().data ?? []
  const albums = useAlbums().data ?? []
  const categories = useCategories().data ?? []
  if (link.kind === 'page') {
    const page = pages.find((p) => p.id === link.thing)
    return page && { name: page.title, hidden: !page.published }
  }
  if (link.kind === 'album') {
    const album = albums.find((a) => a.id === link.thing)
    return album && { name: album.title || album.workingName, hidden: album.standing.categories.length === 0 }
  }
  const category = categories.find((c) => c.id === link.thing)
  return category && { name: category.name, hidden: category.hiddenBy !== null }
}
