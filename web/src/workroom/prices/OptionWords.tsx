import type { ReactNode } from 'react'
import { PriceField } from './PriceField'

/** A word of a sentence that is typed over. */
export function Word({
  label,
  value,
  hint,
  width,
  digits = false,
  onSay,
  children,
}: {
  label: string
  value: string
  hint: string
  width: string
  /** It is a whole number, or nothing. */
  digits?: boolean
  onSay: (value: string) => void
  children: ReactNode
}) {
  return (
    <span className="whitespace-nowrap">
      {children}{' '}
      <PriceField
        label={label}
        value={value}
        hint={hint}
        digits={digits}
        className={`${width} font-semibold [field-sizing:content]`}
        onSay={onSay}
      />
    </span>
  )
}

/** A few sentences, as buyers read them. */
export function Paragraph({
  label,
  value,
  most,
  onSay,
}: {
  label: string
  value: string
  most: number
  onSay: (value: string) => void
}) {
  return (
    <label className="grid gap-0.5">
      <span className="text-quiet">{label}</span>
      <textarea
        key={value}
        defaultValue={value}
        rows={2}
        maxLength={most}
        className="w-full max-w-[36rem] resize-y border-b border-strong-line bg-transparent leading-normal outline-none [field-sizing:content] focus:border-plum"
        onBlur={(e) => {
          if (e.target.value.trim() !== value) onSay(e.target.value.trim())
        }}
      />
    </label>
  )
}

/** A whole number, or none. */
export const numberOf = (typed: string) => (typed === '' ? null : Number(typed))
