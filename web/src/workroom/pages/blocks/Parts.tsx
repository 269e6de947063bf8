import type { ReactNode } from 'react'
import { useState } from 'react'
import { Button } from '../../../kit/Button'
import { w } from '../../../words'

/** A sentence of settings: words and the parts of it that are pressed to change them. */
export function Says({ children }: { children: ReactNode }) {
  return <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1">{children}</p>
}

/** Settings that are asked for seldom, folded under what they are for; what is not as usual is said there and can be put back. */
export function Fold({
  name,
  changed,
  onUsual,
  children,
}: {
  name: string
  changed: boolean
  /** The way back, where the settings do not say it themselves. */
  onUsual?: () => void
  children: ReactNode
}) {
  const [open, setOpen] = useState(false)
  return (
    <div className={open ? 'basis-full' : ''}>
      <button
        type="button"
        aria-expanded={open}
        className={`min-h-6 ${changed ? 'font-semibold' : 'text-quiet hover:text-ink'}`}
        onClick={() => setOpen(!open)}
      >
        {name}
        {changed && <span className="text-plum"> · {w.pages.set}</span>}
      </button>
      {open && (
        <div className="mt-1 mb-2 grid gap-1 border-l border-line pl-3">
          {children}
          {changed && onUsual && (
            <p>
              <Button look="word" onClick={onUsual}>
                {w.blocks.usual}
              </Button>
            </p>
          )}
        </div>
      )}
    </div>
  )
}

/** A line of words above or beneath what stands there. */
export function LineField({
  line,
  label,
  onSay,
}: {
  line: string
  label: string
  onSay: (line: string) => void
}) {
  return (
    <input
      value={line}
      aria-label={label}
      placeholder={label}
      maxLength={300}
      className="in-place"
      onChange={(e) => onSay(e.target.value)}
    />
  )
}

/** A word that holds or does not: underlined while it does, pressed to change it. */
export function Toggle({
  on,
  words,
  label,
  onSay,
}: {
  on: boolean
  words: string
  /** What it means, where the word alone does not say so. */
  label?: string
  onSay: (on: boolean) => void
}) {
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={label}
      title={label}
      className={`whitespace-nowrap ${on ? 'font-semibold underline decoration-strong-line decoration-1 underline-offset-4' : 'text-quiet hover:text-ink'}`}
      onClick={() => onSay(!on)}
    >
      {words}
    </button>
  )
}
