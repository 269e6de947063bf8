import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core'
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useEffect, useRef } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { useSortSensors } from '../../kit/useSortSensors'
import { w } from '../../words'
import { AddLine } from './AddLine'
import { BlockSettings } from './blocks/BlockSettings'
import {
  type Block,
  type BlockKind,
  type BlockOf,
  double,
  flat,
  insert,
  make,
  moved,
  replace,
  step,
} from './blocks/blocks'
import { LineVerbs } from './LineVerbs'
import { MarginNotes } from './MarginNotes'
import { OrderLine } from './OrderLine'
import type { Typing } from './typing/typing'
import type { PageDraft } from './usePageDraft'

/** The blocks of a page, set like the contents of a catalogue: one line a block, its settings open beneath it. */
export function RunningOrder({
  page,
  draft,
  notes,
  open,
  typing,
  onOpen,
}: {
  page: string
  draft: PageDraft
  /** None until they are there. */
  notes: Api['PageNotes'] | null
  /** The block whose settings are open. */
  open: string | null
  typing: Typing
  onOpen: (block: string | null) => void
}) {
  const { blocks } = draft
  const sensors = useSortSensors()
  const list = useRef<HTMLOListElement>(null)
  const stepped = useRef<string | null>(null)

  // A line that was moved by a key keeps the keyboard where it has gone.
  useEffect(() => {
    if (!stepped.current) return
    list.current?.querySelector<HTMLElement>(`[data-line="${stepped.current}"] [aria-expanded]`)?.focus()
    stepped.current = null
  })

  function drop({ active, over }: DragEndEvent) {
    if (!over || active.id === over.id) return
    const at = (id: unknown) => blocks.findIndex((b) => b.id === id)
    draft.arrange((all) => moved(all, at(active.id), at(over.id)))
  }
  function add(kind: BlockKind) {
    const added = make(kind)
    draft.arrange((all) => insert(all, open, added))
    onOpen(added.kind === 'beside' ? (added.blocks[0]?.id ?? added.id) : added.id)
    if (kind === 'text') typing.begin(added.id)
  }
  const remove = (block: Block) => {
    draft.arrange((all) => replace(all, block.id, null))
    if (open === block.id) onOpen(null)
  }

  /** Who sets something beside the page is done with typing on it, and sees there what was set. */
  function say(block: Block) {
    if (typing.block) typing.end()
    draft.say(block)
  }

  /** What stands beneath the line of a block: those within it, its settings while it is open, what is wrong with it. */
  function beneath(
    block: Block,
    outer: BlockOf<'beside'> | undefined,
    noted: Api['BlockNotes'] | undefined,
    isOpen: boolean,
  ) {
    const fault = draft.faults[block.id]
    if (!isOpen && !fault && block.kind !== 'beside') return null
    return (
      <>
        {block.kind === 'beside' && (
          <ol className="mb-1 grid">{block.blocks.map((b, i) => line(b, i + 1, block))}</ol>
        )}
        {open === block.id && (
          <>
            {block.kind === 'beside' && block.blocks.length < 3 && (
              <AddLine
                inner
                lead={w.blocks.addInside}
                onAdd={(kind) => {
                  const added = make(kind)
                  draft.say({ ...block, blocks: [...block.blocks, added] })
                  onOpen(added.id)
                }}
              />
            )}
            <BlockSettings
              block={block}
              beside={outer?.blocks.length ?? 1}
              around={
                notes && {
                  page: notes.look,
                  own: noted?.look ?? null,
                  unreadable: noted?.unreadable ?? [],
                  grounded: noted?.onGround ?? false,
                }
              }
              typing={typing}
              onSay={say}
            />
            {noted && <MarginNotes block={block} notes={noted} onSay={say} />}
            <LineVerbs
              block={block}
              page={page}
              onSay={say}
              onDouble={() => {
                const second = double(block)
                draft.arrange((all) => insert(all, block.id, second))
                onOpen(second.id)
              }}
              {...(outer && {
                onOut: () => draft.arrange((all) => insert(replace(all, block.id, null), outer.id, block)),
              })}
              onRemove={() => remove(block)}
            />
          </>
        )}
        {fault && <Fault draft={draft} sentence={fault} />}
      </>
    )
  }

  function line(block: Block, number: number, outer?: BlockOf<'beside'>) {
    const noted = notes?.blocks.find((n) => n.block === block.id)
    const isOpen = open === block.id || (block.kind === 'beside' && block.blocks.some((b) => b.id === open))
    return (
      <OrderLine
        key={block.id}
        block={block}
        number={number}
        title={draft.edit.draft.title}
        notes={noted}
        open={isOpen}
        inner={outer !== undefined}
        onOpen={() => onOpen(open === block.id ? null : block.id)}
        onStep={(by) => {
          stepped.current = block.id
          draft.arrange((all) => step(all, block.id, by))
        }}
        onRemove={() => remove(block)}
      >
        {beneath(block, outer, noted, isOpen)}
      </OrderLine>
    )
  }

  return (
    <section aria-label={w.blocks.order}>
      {blocks.length === 0 && <p className="border-t border-line py-3 text-quiet">{w.blocks.empty}</p>}
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
        <SortableContext items={blocks.map((b) => b.id)} strategy={verticalListSortingStrategy}>
          <ol ref={list}>{blocks.map((block, i) => line(block, i + 1))}</ol>
        </SortableContext>
      </DndContext>
      {draft.faults.blocks && <p className="py-2 text-small font-semibold">{draft.faults.blocks}</p>}
      <div className="border-t border-line pt-3">
        <AddLine
          lead={open && flat(blocks).some((b) => b.id === open) ? w.blocks.addBeneath : w.blocks.add}
          onAdd={add}
        />
      </div>
    </section>
  )
}

/** Why a block cannot be kept as it is; where somebody else changed it, too, one chooses whose stands. */
function Fault({ draft, sentence }: { draft: PageDraft; sentence: string }) {
  if (draft.state !== 'collided') return <p className="font-semibold">{sentence}</p>
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 font-semibold">
      {w.blocks.collided}
      <Button look="word" className="font-normal" onClick={() => void draft.keepMine()}>
        {w.blocks.mine}
      </Button>
      <Button look="word" className="font-normal" onClick={() => void draft.takeTheirs()}>
        {w.blocks.theirs}
      </Button>
    </p>
  )
}
