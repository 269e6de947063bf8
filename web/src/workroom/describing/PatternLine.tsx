import { type KeyboardEvent, useRef, useState } from 'react'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import {
  dateForms,
  type PatternPart,
  type Typed,
  told,
  withChanged,
  withoutPart,
  withPart,
  withText,
} from './pattern'

/** A pattern as one line: text typed where it stands, and between it the parts that each photo fills in for itself. */
export function PatternLine({ typed, onChange }: { typed: Typed; onChange: (typed: Typed) => void }) {
  const [menu, setMenu] = useState(false)
  const place = useRef({ text: 0, at: 0 })
  const line = useRef<HTMLSpanElement>(null)
  /** Where one types on once the menu has closed. */
  const next = useRef<number | null>(null)
  const texts = () => [...(line.current?.querySelectorAll('input') ?? [])]
  function focus(text: number, at: number) {
    const field = texts()[text]
    field?.focus()
    field?.setSelectionRange(at, at)
  }
  function put(part: PatternPart) {
    const { text, at } = place.current
    setMenu(false)
    onChange(withPart(typed, text, at, part))
    place.current = { text: text + 1, at: 0 }
    next.current = text + 1
  }
  function goOn() {
    if (next.current === null) return false
    focus(next.current, 0)
    next.current = null
    return true
  }
  function remove(part: number) {
    const at = typed.texts[part]?.length ?? 0
    onChange(withoutPart(typed, part))
    place.current = { text: part, at }
    // The text that the two become stands there with the next picture.
    requestAnimationFrame(() => focus(part, at))
  }
  function onKey(e: KeyboardEvent<HTMLInputElement>, i: number) {
    const field = e.currentTarget
    const [start, end] = [field.selectionStart ?? 0, field.selectionEnd ?? 0]
    if (e.key === 'Backspace' && start === 0 && end === 0 && i > 0) remove(i - 1)
    else if (e.key === 'Delete' && start === field.value.length && i < typed.parts.length) remove(i)
    else if (e.key === 'ArrowLeft' && start === 0 && end === 0 && i > 0)
      focus(i - 1, typed.texts[i - 1]?.length ?? 0)
    else if (e.key === 'ArrowRight' && start === field.value.length && i < typed.parts.length) focus(i + 1, 0)
    else return
    e.preventDefault()
  }
  return (
    <>
      <span
        ref={line}
        className="inline-flex min-h-8 min-w-48 flex-wrap items-baseline border-b-2 border-strong-line focus-within:border-plum"
      >
        {typed.texts.map((text, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: texts and parts have no other name than their place.
          <span key={i} className="inline-flex items-baseline">
            {i > 0 && typed.parts[i - 1] && (
              <Chip
                part={typed.parts[i - 1] as PatternPart}
                onChange={(part) => onChange(withChanged(typed, i - 1, part))}
                onRemove={() => remove(i - 1)}
              />
            )}
            <input
              aria-label={w.describing.textAt(i + 1)}
              placeholder={typed.parts.length === 0 ? w.describing.patternHint : ''}
              className="min-h-6 min-w-6 max-w-full bg-transparent leading-tight font-semibold whitespace-pre outline-none [field-sizing:content] placeholder:font-normal"
              value={text}
              onChange={(e) => onChange(withText(typed, i, e.target.value))}
              onKeyDown={(e) => onKey(e, i)}
              onBlur={(e) => {
                place.current = { text: i, at: e.currentTarget.selectionStart ?? 0 }
              }}
            />
          </span>
        ))}
      </span>{' '}
      <Popover
        open={menu}
        onOpenChange={setMenu}
        label={w.describing.putIn}
        onClosed={goOn}
        trigger={
          <Button look="word" className="font-sans text-body font-normal">
            {w.describing.putIn}
          </Button>
        }
      >
        <ul className="-mx-2 grid">
          {offered.map(([name, part]) => (
            <li key={name}>
              <button
                type="button"
                className="w-full rounded-control px-2 py-1 text-left hover:bg-plum-wash"
                onClick={() => put(part)}
              >
                {w.describing.parts[name]}
              </button>
            </li>
          ))}
        </ul>
      </Popover>
    </>
  )
}

const offered: readonly (readonly [keyof typeof w.describing.parts, PatternPart])[] = [
  ['counter', { counter: { digits: 2, from: 1, eachDay: false } }],
  ['taken', { taken: 'day' }],
  ...told.map((t) => [t, { told: t }] as const),
]

function says(part: PatternPart) {
  if (part.counter)
    return w.describing.number(
      String(part.counter.from).padStart(part.counter.digits, '0'),
      part.counter.eachDay,
    )
  if (part.taken) return w.describing.dates[part.taken]
  return part.told ? w.describing.parts[part.told] : ''
}

/** One part, pressed to say how it is written or to take it out. */
function Chip({
  part,
  onChange,
  onRemove,
}: {
  part: PatternPart
  onChange: (part: PatternPart) => void
  onRemove: () => void
}) {
  const [open, setOpen] = useState(false)
  const field =
    'w-20 border-b border-strong-line bg-transparent text-right tabular-nums outline-none focus:border-plum'
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={says(part)}
      trigger={
        <button
          type="button"
          className="mx-0.5 rounded-control bg-plum-wash px-1.5 font-sans text-body leading-6 font-normal whitespace-nowrap text-plum hover:outline hover:outline-plum"
        >
          {says(part)}
        </button>
      }
    >
      <div className="grid gap-3">
        {part.counter && (
          <>
            <label className="flex items-baseline justify-between">
              {w.describing.from}
              <input
                type="number"
                min={0}
                max={99999999}
                className={field}
                value={part.counter.from}
                onChange={(e) =>
                  part.counter &&
                  onChange({
                    counter: {
                      ...part.counter,
                      from: Math.max(0, Math.min(99999999, Math.floor(e.target.valueAsNumber || 0))),
                    },
                  })
                }
              />
            </label>
            <label className="flex items-baseline justify-between">
              {w.describing.digits}
              <input
                type="number"
                min={1}
                max={8}
                className={field}
                value={part.counter.digits}
                onChange={(e) =>
                  part.counter &&
                  onChange({
                    counter: {
                      ...part.counter,
                      digits: Math.max(1, Math.min(8, Math.floor(e.target.valueAsNumber || 1))),
                    },
                  })
                }
              />
            </label>
            <label className="flex items-baseline gap-2">
              <input
                type="checkbox"
                className="accent-plum"
                checked={part.counter.eachDay}
                onChange={(e) =>
                  part.counter && onChange({ counter: { ...part.counter, eachDay: e.target.checked } })
                }
              />
              {w.describing.eachDay}
            </label>
          </>
        )}
        {part.taken && (
          <fieldset className="grid gap-1">
            {dateForms.map((form) => (
              <label key={form} className="flex items-baseline gap-2">
                <input
                  type="radio"
                  name="form"
                  className="accent-plum"
                  checked={part.taken === form}
                  onChange={() => onChange({ taken: form })}
                />
                {w.describing.dateForms[form]}
              </label>
            ))}
          </fieldset>
        )}
        <Button
          look="word"
          className="justify-self-start"
          onClick={() => {
            setOpen(false)
            onRemove()
          }}
        >
          {w.describing.takeOutPart}
        </Button>
      </div>
    </Popover>
  )
}
