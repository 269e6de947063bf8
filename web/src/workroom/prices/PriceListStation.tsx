import { closestCenter, DndContext, type DragEndEvent } from '@dnd-kit/core'
import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { useQuery } from '@tanstack/react-query'
import { useNavigate, useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { NumberWord } from '../../kit/NumberWord'
import { useSortSensors } from '../../kit/useSortSensors'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useAct, usePriceLists } from '../shell/data'
import { tellDone } from '../shell/news'
import { StaleVerbs } from '../shell/Stale'
import { AddOption } from './AddOption'
import { keyOf, type PriceList, readList, usePriceList } from './data'
import { OptionLine } from './OptionLine'
import { PriceFile } from './PriceFile'
import { SoldIn } from './SoldIn'

/** One price list, set as one that is printed: headings, options, and their prices down the right. */
export function PriceListStation() {
  const { list } = useParams({ from: '/workroom/prices/$list' })
  const seen = useQuery({ queryKey: keyOf(list), queryFn: () => readList(list) })
  if (seen.error && !seen.data) return <p className="p-10">{seen.error.message}</p>
  return seen.data ? <Opened key={list} seen={seen.data} /> : null
}

function Opened({ seen }: { seen: Api['PriceListSeen'] }) {
  const { list, state, fault, faults, change, changeOption, takeTheirs, overwrite } = usePriceList(seen)
  const [open, setOpen] = useState<string | null>(null)
  const sensors = useSortSensors()
  const at = (id: unknown) => list.options.findIndex((o) => o.id === id)
  const known = new Map(
    seen.list.options.map((o, i) => [o.id, { called: seen.called[i] ?? '', stays: seen.stays[i] ?? '' }]),
  )
  function drop({ active, over }: DragEndEvent) {
    if (!over || active.id === over.id) return
    change((now) => {
      const next = [...now.options]
      const [one] = next.splice(at(active.id), 1)
      if (one) next.splice(at(over.id), 0, one)
      return { ...now, options: next }
    })
  }
  return (
    <div className="px-[30px] pt-7 pb-16">
      <input
        aria-label={w.prices.name}
        value={list.name}
        maxLength={80}
        onChange={(e) => change((now) => ({ ...now, name: e.target.value }))}
        className="w-full border-b border-transparent bg-transparent font-display text-title leading-tight font-semibold outline-none hover:border-line focus:border-plum"
      />
      <Terms list={list} onSay={(next) => change((now) => ({ ...now, ...next }))} />
      <p className="mt-1 flex min-h-6 flex-wrap items-baseline gap-x-5 text-small">
        <span role="status" className="text-quiet">
          {state === 'saved' ? w.prices.saved : state === 'stale' ? w.menu.stale : w.plate.unsaved}
        </span>
        {state === 'stale' && (
          <StaleVerbs onReload={() => void takeTheirs()} onOverwrite={() => void overwrite()} />
        )}
        {fault && <span className="font-semibold">{fault}</span>}
      </p>
      <div className="mt-5 grid grid-cols-[minmax(0,1fr)_17rem] gap-x-14 gap-y-10 max-lg:grid-cols-1">
        <section aria-label={w.prices.title} className="min-w-0">
          {seen.notes
            .filter((note) => note.option === null)
            .map((note) => (
              <p key={note.sentence} className="mb-3 border-l-[3px] border-plum pl-3 text-small">
                {note.sentence}
              </p>
            ))}
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={drop}>
            <SortableContext items={list.options.map((o) => o.id)} strategy={verticalListSortingStrategy}>
              <ol>
                {list.options.map((option, i) => (
                  <OptionLine
                    key={option.id}
                    option={option}
                    called={known.get(option.id)?.called || option.size || option.name}
                    stays={known.get(option.id)?.stays ?? ''}
                    heading={option.group !== (list.options[i - 1]?.group ?? '') ? option.group : ''}
                    notes={seen.notes.filter((n) => n.option === option.id).map((n) => n.sentence)}
                    fault={faults[option.id]}
                    open={open === option.id}
                    onOpen={() => setOpen(open === option.id ? null : option.id)}
                    onSay={(next) => changeOption(option.id, next)}
                    onRemove={() =>
                      change((now) => ({ ...now, options: now.options.filter((o) => o.id !== option.id) }))
                    }
                  />
                ))}
              </ol>
            </SortableContext>
          </DndContext>
          <AddOption
            first={list.options.length === 0}
            onAdd={(option) => {
              const group = list.options.at(-1)?.group ?? ''
              change((now) => ({ ...now, options: [...now.options, { ...option, group }] }))
            }}
          />
        </section>
        <div className="grid min-w-0 content-start gap-9">
          <SoldIn list={seen.id} galleries={seen.galleries} />
          <PriceFile list={seen.id} written={() => void takeTheirs()} />
          <LetGo id={seen.id} name={seen.list.name} version={seen.version} />
        </div>
      </div>
    </div>
  )
}

/** What holds for the whole list, as a sentence. */
function Terms({ list, onSay }: { list: PriceList; onSay: (next: Partial<PriceList>) => void }) {
  const currencies = usePriceLists().data?.currencies ?? [list.currency]
  const { limits } = list
  const number = (label: string, which: keyof typeof limits) => (
    <NumberWord
      label={label}
      value={limits[which]}
      least={1}
      most={1200}
      onSay={(n) => onSay({ limits: { ...limits, [which]: n } })}
    />
  )
  return (
    <p className="mt-2 max-w-[52rem] leading-[1.9]">
      {w.prices.inCurrency}{' '}
      <WordSelect
        label={w.prices.currency}
        value={list.currency}
        choices={currencies.map((code) => [code, code] as const)}
        onChoose={(currency) => onSay({ currency })}
      />
      . {w.prices.good} {number(w.prices.goodLabel, 'good')} {w.prices.fair}{' '}
      {number(w.prices.fairLabel, 'fair')}
      {w.prices.small} {number(w.prices.smallLabel, 'least')}
      {w.prices.tooSmall}{' '}
      <WordSelect
        label={w.prices.tooSmallLabel}
        value={list.sellsSmall ? 'yes' : 'no'}
        choices={(['no', 'yes'] as const).map((one) => [one, w.prices.sells[one]] as const)}
        onChoose={(one) => onSay({ sellsSmall: one === 'yes' })}
      />
      .
    </p>
  )
}

function LetGo({ id, name, version }: { id: string; name: string; version: number }) {
  const go = useNavigate()
  const away = useAct(
    () =>
      body(
        api.DELETE('/api/prices/{list}', {
          params: { path: { list: id }, header: { 'If-Match': version } },
        }),
        w.errors.away,
      ),
    (done) => {
      tellDone(w.prices.letGoDone(name), done)
      void go({ to: '/workroom/prices' })
    },
  )
  return (
    <p>
      <Button look="word" className="text-small" onClick={() => away.mutate(undefined)}>
        {w.prices.letGo}
      </Button>
    </p>
  )
}
