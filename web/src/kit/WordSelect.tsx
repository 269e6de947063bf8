import type { SelectHTMLAttributes } from 'react'

/** A choice that stands in a sentence as a word of it; pressed, the others are offered. */
export function WordSelect<Value extends string>({
  label,
  value,
  choices,
  onChoose,
  className = '',
  ...rest
}: Omit<SelectHTMLAttributes<HTMLSelectElement>, 'value' | 'onChange'> & {
  label: string
  value: Value
  /** What may be chosen, with its words. */
  choices: readonly (readonly [Value, string])[]
  onChoose: (value: Value) => void
}) {
  return (
    <select
      aria-label={label}
      className={`cursor-pointer appearance-none rounded-none border-b border-strong-line bg-transparent font-semibold [field-sizing:content] hover:border-ink ${className}`}
      value={value}
      onChange={(e) => {
        const chosen = choices.find(([choice]) => choice === e.target.value)
        if (chosen) onChoose(chosen[0])
      }}
      {...rest}
    >
      {choices.map(([choice, words]) => (
        <option key={choice} value={choice} className="bg-raised">
          {words}
        </option>
      ))}
    </select>
  )
}
