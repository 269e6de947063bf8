import { useEffect, useRef, useState } from 'react'
import { w } from '../../words'
import { beneaths, useBeneath } from '../sheet/beneath'
import { SortChoice } from '../sheet/SortChoice'
import type { SheetQuery } from '../sheet/useSheet'
import { useKeys } from '../shell/keys'

const select = 'cursor-pointer bg-transparent font-semibold [field-sizing:content]'

/** How the sheet is searched, ordered and shown: words at the left, the rest as choices set in words. */
export function SheetLine({
  search,
  size,
  onSize,
  onChange,
}: {
  search: SheetQuery
  size: number
  onSize: (size: number) => void
  onChange: (next: SheetQuery) => void
}) {
  const { beneath, choose } = useBeneath()
  const sort = search.sort && search.sort !== 'place' ? search.sort : 'taken'
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pb-1 text-small">
      <Words said={search.q ?? ''} onSay={(q) => onChange({ q })} />
      <span className="flex items-baseline gap-1.5">
        <span className="text-quiet">{w.sheet.sortBy}</span>
        <SortChoice
          label={w.sheet.sortBy}
          className="font-semibold"
          sort={sort}
          reversed={search.reversed ?? false}
          onChange={(next, back) => onChange({ sort: next, reversed: back || undefined })}
        />
      </span>
      <label className="flex items-baseline gap-1.5">
        <span className="text-quiet">{w.sheet.beneathIt}</span>
        <select
          className={select}
          value={beneath}
          onChange={(e) => choose(beneaths.find((b) => b === e.target.value) ?? 'title')}
        >
          {beneaths.map((b) => (
            <option key={b} value={b} className="bg-raised">
              {w.sheet.beneath[b]}
            </option>
          ))}
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
    </div>
  )
}

/** Words to look for; said when one stops typing. */
function Words({ said, onSay }: { said: string; onSay: (words: string | undefined) => void }) {
  const field = useRef<HTMLInputElement>(null)
  const [typed, setTyped] = useState(said)
  const say = useRef(onSay)
  say.current = onSay
  useKeys({ '/': () => field.current?.focus() })
  const asked = useRef(said)
  useEffect(() => {
    if (asked.current === typed.trim()) return
    const timer = setTimeout(() => {
      asked.current = typed.trim()
      say.current(typed.trim() || undefined)
    }, 220)
    return () => clearTimeout(timer)
  }, [typed])
  // Narrowed from elsewhere (all photos shown again, a step back), the field says what holds now.
  useEffect(() => {
    if (asked.current === said) return
    asked.current = said
    setTyped(said)
  }, [said])
  return (
    <label className="flex w-44 items-baseline border-b border-line focus-within:border-plum">
      <span className="sr-only">{w.sheet.searchAll}</span>
      <input
        ref={field}
        type="search"
        className="w-full bg-transparent outline-none"
        placeholder={`${w.sheet.search}  /`}
        title={w.sheet.searchAll}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onKeyDown={(e) => e.key === 'Escape' && (typed ? setTyped('') : e.currentTarget.blur())}
      />
    </label>
  )
}
