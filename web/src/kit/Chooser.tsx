import { type KeyboardEvent, useEffect, useId, useRef, useState } from 'react'

export type Choice = { key: string; name: string; note?: string; depth?: number }

/** A field that narrows a list while one types; arrows and Enter choose, and a new name can be offered. */
export function Chooser({
  choices,
  typed,
  onType,
  onChoose,
  onNew,
  newLabel,
  label,
}: {
  choices: readonly Choice[]
  typed: string
  onType: (text: string) => void
  onChoose: (choice: Choice) => void
  onNew?: (name: string) => void
  newLabel?: (name: string) => string
  label: string
}) {
  const [at, setAt] = useState(0)
  const id = useId()
  const list = useRef<HTMLDivElement>(null)
  // Only keys scroll: a list that moves beneath the pointer would choose by itself.
  const byKey = useRef(false)
  const wanted = typed.trim().toLowerCase()
  const found = choices.filter((c) => c.name.toLowerCase().includes(wanted))
  // What begins so comes first, except in a tree, which keeps its order.
  const begins = (c: Choice) => (c.name.toLowerCase().startsWith(wanted) ? 0 : 1)
  const shown = (
    found.some((c) => c.depth) ? found : found.toSorted((one, other) => begins(one) - begins(other))
  ).slice(0, 60)
  const offersNew =
    onNew !== undefined && wanted.length > 0 && !choices.some((c) => c.name.toLowerCase() === wanted)
  const count = shown.length + (offersNew ? 1 : 0)
  const here = Math.min(at, Math.max(0, count - 1))

  useEffect(() => {
    if (byKey.current) list.current?.children[here]?.scrollIntoView({ block: 'nearest' })
    byKey.current = false
  }, [here])

  function choose(index: number) {
    const choice = shown[index]
    if (choice) onChoose(choice)
    else if (offersNew) onNew(typed.trim())
  }

  function onKey(e: KeyboardEvent) {
    byKey.current = e.key === 'ArrowDown' || e.key === 'ArrowUp'
    if (e.key === 'ArrowDown') setAt(Math.min(here + 1, count - 1))
    else if (e.key === 'ArrowUp') setAt(Math.max(here - 1, 0))
    else if (e.key === 'Enter' && count > 0) choose(here)
    else return
    e.preventDefault()
  }

  const row = 'flex w-full items-baseline justify-between gap-3 px-2 py-1 text-left rounded-control'
  return (
    <div>
      <input
        className="w-full border-b border-strong-line bg-transparent pb-1 outline-none focus:border-plum"
        role="combobox"
        aria-label={label}
        aria-expanded={count > 0}
        aria-controls={`${id}-list`}
        aria-activedescendant={count > 0 ? `${id}-${here}` : undefined}
        placeholder={label}
        value={typed}
        onChange={(e) => {
          onType(e.target.value)
          setAt(0)
        }}
        onKeyDown={onKey}
      />
      <div
        ref={list}
        id={`${id}-list`}
        role="listbox"
        aria-label={label}
        tabIndex={-1}
        className="-mx-2 mt-2 max-h-64 overflow-y-auto"
      >
        {shown.map((choice, i) => (
          <div
            key={choice.key}
            id={`${id}-${i}`}
            role="option"
            tabIndex={-1}
            aria-selected={i === here}
            aria-setsize={count}
            aria-posinset={i + 1}
            className={`${row} cursor-pointer ${i === here ? 'bg-plum-wash' : ''}`}
            style={{ paddingLeft: `${0.5 + (choice.depth ?? 0) * 1.1}rem` }}
            onPointerMove={() => setAt(i)}
            onClick={() => choose(i)}
            onKeyDown={onKey}
          >
            <span className="truncate">{choice.name}</span>
            <span className="text-small whitespace-nowrap text-quiet tabular-nums">{choice.note}</span>
          </div>
        ))}
        {offersNew && (
          <div
            id={`${id}-${shown.length}`}
            role="option"
            tabIndex={-1}
            aria-selected={here === shown.length}
            aria-setsize={count}
            aria-posinset={count}
            className={`${row} cursor-pointer text-plum ${here === shown.length ? 'bg-plum-wash' : ''}`}
            onPointerMove={() => setAt(shown.length)}
            onClick={() => choose(shown.length)}
            onKeyDown={onKey}
          >
            {newLabel?.(typed.trim()) ?? typed.trim()}
          </div>
        )}
      </div>
    </div>
  )
}
