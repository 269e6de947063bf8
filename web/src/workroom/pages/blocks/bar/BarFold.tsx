import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core'
import { useEffect, useRef } from 'react'
import type { Api } from '../../../../api/client'
import { Button } from '../../../../kit/Button'
import { useSortSensors } from '../../../../kit/useSortSensors'
import { w } from '../../../../words'
import { noBar } from '../blocks'
import { Fold, Says } from '../Parts'
import { AddButtons } from './AddButtons'
import { BarGroup } from './BarGroup'
import { BarSentence } from './BarSentence'
import { added, type Bar, find, idOf, moved, stepped, withGroup } from './bar'
import { FindingSentence, usualFields } from './FindingSentence'
import { useNames } from './useNames'

/** By what visitors can narrow the photos of a block: groups of buttons in their order, under words of the author's own. */
export function BarFold({
  bar,
  source,
  onSay,
}: {
  bar: Bar
  source: Api['PhotosSource']
  onSay: (bar: Bar) => void
}) {
  const names = useNames(bar)
  const sensors = useSortSensors()
  const list = useRef<HTMLDivElement>(null)
  const went = useRef<string | null>(null)
  const hasButtons = bar.groups.some((g) => g.buttons.length > 0)
  const none = !hasButtons && bar.search.fields.length === 0 && bar.orders.length === 0

  // A button that was moved by a key keeps the keyboard where it has gone.
  useEffect(() => {
    if (!went.current) return
    list.current?.querySelector<HTMLElement>(`[data-button="${went.current}"]`)?.focus()
    went.current = null
  })

  function drop({ active, over }: DragEndEvent) {
    const from = find(bar, String(active.id))
    const to = over && find(bar, String(over.id))
    if (from && to && active.id !== over.id) onSay(moved(bar, from, to))
  }
  function step(id: string, by: -1 | 1) {
    const from = find(bar, id)
    const one = from && bar.groups[from.group]?.buttons[from.place]
    if (!from || !one) return
    const next = stepped(bar, from, by)
    const group = next.groups.findIndex((g) => g.buttons.includes(one))
    went.current = idOf(group, one)
    onSay(next)
  }

  return (
    <Fold name={w.bar.label} changed={!none} onUsual={() => onSay(noBar)}>
      {none ? (
        <Says>
          <span>{w.bar.empty}</span>
          <AddButtons source={source} group={undefined} onAdd={(one) => onSay(added(bar, 0, one))} />
          <Button
            look="word"
            onClick={() => onSay({ ...bar, search: { ...bar.search, fields: usualFields } })}
          >
            {w.bar.search.add}
          </Button>
        </Says>
      ) : (
        <div className="grid min-w-0 gap-1">
          <BarSentence bar={bar} onSay={onSay} />
          <FindingSentence bar={bar} onSay={onSay} />
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
            <div ref={list} className="grid grid-cols-[minmax(0,1fr)] gap-3 pt-1">
              {bar.groups.map((group, n) => (
                <BarGroup
                  // biome-ignore lint/suspicious/noArrayIndexKey: a group is known by its place alone
                  key={n}
                  group={group}
                  number={n}
                  alone={bar.groups.length === 1}
                  source={source}
                  names={names}
                  onSay={(next) => onSay(withGroup(bar, n, () => next))}
                  onAdd={(one) => onSay(added(bar, n, one))}
                  onStep={step}
                  onRemove={() => onSay({ ...bar, groups: bar.groups.filter((g) => g !== group) })}
                />
              ))}
            </div>
          </DndContext>
          <p>
            <Button
              look="word"
              onClick={() =>
                onSay({ ...bar, groups: [...bar.groups, { words: '', one: false, buttons: [] }] })
              }
            >
              {bar.groups.length > 0 ? w.bar.addGroup : w.bar.addButtons}
            </Button>
          </p>
        </div>
      )}
    </Fold>
  )
}
