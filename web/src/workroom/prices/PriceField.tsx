import { useEffect, useState } from 'react'

const look =
  'border-b border-strong-line bg-transparent outline-none hover:border-ink focus:border-plum placeholder:text-quiet placeholder:font-normal'

/** A text that counts when one leaves it: an amount, a size, a name. Enter goes on to the next of its kind. */
export function PriceField({
  label,
  value,
  hint,
  column,
  invalid = false,
  digits = false,
  className = '',
  onSay,
}: {
  label: string
  value: string
  hint?: string
  /** Fields of one column: Enter and the arrows go up and down in it. */
  column?: string
  invalid?: boolean
  /** Only a whole number counts, or nothing; anything else is put back. */
  digits?: boolean
  className?: string
  onSay: (value: string) => void
}) {
  const [typed, setTyped] = useState(value)
  useEffect(() => setTyped(value), [value])
  const say = () => {
    const said = typed.trim()
    if (digits && !/^\d{0,6}$/.test(said)) setTyped(value)
    else if (said !== value) onSay(said)
  }
  function step(field: HTMLInputElement, by: number) {
    const all = [...document.querySelectorAll<HTMLInputElement>(`input[data-column="${column}"]`)]
    const next = all[all.indexOf(field) + by]
    if (next) {
      next.focus()
      next.select()
    } else field.blur()
  }
  return (
    <input
      aria-label={label}
      aria-invalid={invalid}
      value={typed}
      placeholder={hint ?? ''}
      inputMode={digits ? 'numeric' : undefined}
      data-column={column}
      className={`${look} ${className}`}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={say}
      onKeyDown={(e) => {
        if (e.key === 'Escape') setTyped(value)
        if (e.key !== 'Enter' && !(column && (e.key === 'ArrowDown' || e.key === 'ArrowUp'))) return
        e.preventDefault()
        if (column) step(e.currentTarget, e.key === 'ArrowUp' || e.shiftKey ? -1 : 1)
        else e.currentTarget.blur()
      }}
    />
  )
}
