import { useState } from 'react'
import type { Api } from '../../api/client'
import { type Choice, Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useCategories, useTags } from '../shell/data'

type Content = Api['PageContent']

/** Which categories and tags visitors can narrow the page by, in their order. */
export function FilterSettings({
  content,
  onChange,
}: {
  content: Content
  onChange: (next: Partial<Content>) => void
}) {
  const [typed, setTyped] = useState('')
  const categories = useCategories().data ?? []
  const known = useTags('').data ?? []
  const found = useTags(typed).data ?? []
  const none = content.filterCategories.length + content.filterTags.length === 0
  return (
    <div className="mt-4 border-t border-line pt-3.5 text-small">
      <p className="font-semibold">{w.pages.filter}</p>
      {none && <p className="text-quiet">{w.pages.filterNone}</p>}
      <Picks
        label={w.pages.filterCategories}
        add={w.pages.addCategory}
        chosen={content.filterCategories}
        name={(id) => categories.find((c) => c.id === id)?.name ?? '…'}
        choices={categories.map((c) => ({
          key: c.id,
          name: c.name,
          depth: c.depth,
          note: w.count(c.photos),
        }))}
        onType={setTyped}
        onChange={(filterCategories) => onChange({ filterCategories })}
      />
      <Picks
        label={w.pages.filterTags}
        add={w.pages.addTag}
        chosen={content.filterTags}
        name={(id) => known.find((t) => t.id === id)?.name ?? '…'}
        choices={found.map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
        onType={setTyped}
        onChange={(filterTags) => onChange({ filterTags })}
      />
    </div>
  )
}

function Picks({
  label,
  add,
  chosen,
  name,
  choices,
  onType,
  onChange,
}: {
  label: string
  add: string
  chosen: readonly string[]
  name: (id: string) => string
  choices: readonly Choice[]
  onType: (text: string) => void
  onChange: (ids: string[]) => void
}) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  function earlier(at: number) {
    const next = [...chosen]
    const [one] = next.splice(at, 1)
    if (one) next.splice(at - 1, 0, one)
    onChange(next)
  }
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <span className="text-quiet">{label}</span>
      {chosen.map((id, i) => (
        <span key={id} className="whitespace-nowrap">
          {i > 0 && (
            <button
              type="button"
              aria-label={`${w.pages.earlier}: ${name(id)}`}
              title={w.pages.earlier}
              className="px-0.5 text-quiet hover:text-ink"
              onClick={() => earlier(i)}
            >
              ←
            </button>
          )}
          <button
            type="button"
            aria-label={w.pages.remove(name(id))}
            title={w.pages.remove(name(id))}
            className="underline decoration-line decoration-1 underline-offset-4 hover:line-through"
            onClick={() => onChange(chosen.filter((c) => c !== id))}
          >
            {name(id)}
          </button>
        </span>
      ))}
      <Popover
        open={open}
        onOpenChange={(now) => {
          setOpen(now)
          setTyped('')
          onType('')
        }}
        label={add}
        trigger={
          <button type="button" className="underline decoration-strong-line decoration-1 underline-offset-4">
            {add}
          </button>
        }
      >
        <Chooser
          label={add}
          typed={typed}
          onType={(text) => {
            setTyped(text)
            onType(text)
          }}
          choices={choices.filter((c) => !chosen.includes(c.key))}
          onChoose={(choice) => {
            onChange([...chosen, choice.key])
            setTyped('')
            onType('')
          }}
        />
      </Popover>
    </div>
  )
}
