import { useEffect, useRef, useState } from 'react'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import type { SheetQuery } from '../sheet/useSheet'
import { useCategories, useTags } from '../shell/data'
import { useKeys } from '../shell/keys'

type Change = (next: SheetQuery) => void

/** The line that narrows and sorts the sheet: search at the left, the rest as words that can be changed. */
export function Narrowing({
  search,
  size,
  onSize,
  onChange,
}: {
  search: SheetQuery
  size: number
  onSize: (size: number) => void
  onChange: Change
}) {
  const field = useRef<HTMLInputElement>(null)
  const [typed, setTyped] = useState(search.q ?? '')
  const change = useRef(onChange)
  change.current = onChange
  useKeys({ '/': () => field.current?.focus() })
  const asked = useRef(search.q ?? '')
  useEffect(() => {
    if (asked.current === typed.trim()) return
    const timer = setTimeout(() => {
      asked.current = typed.trim()
      change.current({ q: typed.trim() || undefined })
    }, 220)
    return () => clearTimeout(timer)
  }, [typed])
  // Narrowed from elsewhere (all photos shown again, a step back), the field says what holds now.
  useEffect(() => {
    const now = search.q ?? ''
    if (asked.current === now) return
    asked.current = now
    setTyped(now)
  }, [search.q])
  const sort = search.sort ?? 'taken'
  const byName = sort === 'name'
  return (
    <div className="mt-4 flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-2.5">
      <label className="flex min-w-48 flex-1 items-baseline">
        <span className="sr-only">{w.sheet.search}</span>
        <input
          ref={field}
          type="search"
          className="w-full bg-transparent outline-none"
          placeholder={`${w.sheet.search}  /`}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && (typed ? setTyped('') : e.currentTarget.blur())}
        />
      </label>
      <TagNarrowing tag={search.tag} onChange={onChange} />
      <CategoryNarrowing category={search.category} onChange={onChange} />
      <label className="flex items-baseline gap-1.5">
        <span className="text-quiet">{w.sheet.sortBy}</span>
        <select
          className="cursor-pointer bg-transparent font-semibold"
          value={`${sort}${search.reversed ? '-' : ''}`}
          onChange={(e) =>
            onChange({
              sort: e.target.value.replace('-', '') as SheetQuery['sort'],
              reversed: e.target.value.endsWith('-') || undefined,
            })
          }
        >
          {(['taken', 'arrived', 'name'] as const).flatMap((s) =>
            [false, true].map((back) => (
              <option key={`${s}${back}`} value={`${s}${back ? '-' : ''}`} className="bg-raised">
                {w.sheet.sorts[s]},{' '}
                {s === 'name' ? (back ? w.sheet.za : w.sheet.az) : back ? w.sheet.oldest : w.sheet.newest}
              </option>
            )),
          )}
        </select>
      </label>
      <fieldset className="flex gap-2" aria-label={w.sheet.size}>
        {w.sheet.sizes.map((name, i) => (
          <button
            key={name}
            type="button"
            aria-pressed={size === i}
            aria-label={`${w.sheet.size}: ${name}`}
            onClick={() => onSize(i)}
            className="grid h-6 w-6 place-items-end justify-center"
          >
            <span
              className={`block border ${size === i ? 'border-ink bg-ink' : 'border-strong-line hover:border-ink'}`}
              style={{ width: 8 + i * 5, height: 6 + i * 4 }}
            />
          </button>
        ))}
      </fieldset>
      <span className="sr-only">{byName ? w.sheet.az : ''}</span>
    </div>
  )
}

const trigger = 'whitespace-nowrap'

function TagNarrowing({ tag, onChange }: { tag: string | undefined; onChange: Change }) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const tags = useTags(typed).data ?? []
  const chosen = useTags('', tag).data ?? []
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.sheet.tag}
      trigger={
        <button type="button" className={trigger}>
          <span className="text-quiet">{w.sheet.tag}</span>{' '}
          <strong>{chosen.find((t) => t.id === tag)?.name ?? w.sheet.any}</strong>
        </button>
      }
    >
      <Chooser
        label={w.sheet.tag}
        typed={typed}
        onType={setTyped}
        choices={[
          { key: '', name: w.sheet.any },
          ...tags.map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) })),
        ]}
        onChoose={(choice) => {
          setOpen(false)
          setTyped('')
          onChange({ tag: choice.key || undefined })
        }}
      />
    </Popover>
  )
}

function CategoryNarrowing({ category, onChange }: { category: string | undefined; onChange: Change }) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const all = useCategories().data ?? []
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.sheet.category}
      trigger={
        <button type="button" className={trigger}>
          <span className="text-quiet">{w.sheet.category}</span>{' '}
          <strong>{all.find((c) => c.id === category)?.name ?? w.sheet.any}</strong>
        </button>
      }
    >
      <Chooser
        label={w.sheet.category}
        typed={typed}
        onType={setTyped}
        choices={[
          { key: '', name: w.sheet.any },
          ...all.map((c) => ({ key: c.id, name: c.name, depth: c.depth, note: w.count(c.photos) })),
        ]}
        onChoose={(choice) => {
          setOpen(false)
          setTyped('')
          onChange({ category: choice.key || undefined })
        }}
      />
    </Popover>
  )
}
