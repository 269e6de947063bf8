import { useEffect, useState } from 'react'

/** An amount or a word within a sentence; it counts when one leaves it. */
export function PriceWord({
  label,
  value,
  hint,
  invalid = false,
  words = false,
  onSay,
}: {
  label: string
  value: string
  /** What stands there while nothing does. */
  hint: string
  invalid?: boolean
  /** Letters, not digits. */
  words?: boolean
  onSay: (value: string) => void
}) {
  const [typed, setTyped] = useState(value)
  useEffect(() => setTyped(value), [value])
  return (
    <input
      aria-label={label}
      aria-invalid={invalid}
      value={typed}
      placeholder={hint}
      inputMode={words ? undefined : 'decimal'}
      maxLength={40}
      size={Math.max(3, (typed || hint).length)}
      className={`field-sizing-content border-b bg-transparent font-semibold tabular-nums outline-none placeholder:font-normal placeholder:text-quiet hover:border-ink focus:border-plum ${invalid ? 'border-plum' : 'border-strong-line'}`}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={() => typed.trim() !== value && onSay(typed.trim())}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur()
        if (e.key === 'Escape') setTyped(value)
      }}
    />
  )
}
