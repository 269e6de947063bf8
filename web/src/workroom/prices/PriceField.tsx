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
  className = '',
  onSay,
}: {
  label: string
  value: string
  hint?: string
  /** Fields of one column: Enter and the arrows go up and down in it. */
  column?: string
  invalid?: boolean
  className?: string
  onSay: (value: string) => void
}) {
  const [typed, setTyped] = useState(value)
  useEffect(() => setTyped(value), [value])
  const say = () => {
    if (typed.trim() !== value) onSay(typed.trim())
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
