/** A choice set in a sentence. */
export function Pick<T extends string>({
  label,
  value,
  choices,
  onPick,
}: {
  label: string
  value: T
  choices: readonly (readonly [T, string])[]
  onPick: (value: T) => void
}) {
  return (
    <select
      aria-label={label}
      className="cursor-pointer border-b-2 border-strong-line bg-transparent leading-tight font-semibold [field-sizing:content] hover:border-ink focus:border-plum"
      value={value}
      onChange={(e) => {
        const picked = choices.find(([key]) => key === e.target.value)
        if (picked) onPick(picked[0])
      }}
    >
      {choices.map(([key, name]) => (
        <option key={key} value={key} className="bg-raised font-sans font-normal">
          {name}
        </option>
      ))}
    </select>
  )
}

/** A text typed in a sentence; it grows with what is typed. */
export function Write({
  label,
  value,
  onWrite,
  placeholder,
  type = 'text',
  min,
  max,
}: {
  label: string
  value: string
  onWrite: (text: string) => void
  placeholder?: string
  type?: 'text' | 'number' | 'datetime-local'
  min?: number
  max?: number
}) {
  return (
    <input
      type={type}
      aria-label={label}
      placeholder={placeholder ?? label}
      min={min}
      max={max}
      step={type === 'datetime-local' ? 1 : undefined}
      className="max-w-full border-b-2 border-strong-line bg-transparent leading-tight font-semibold outline-none [field-sizing:content] placeholder:font-normal focus:border-plum"
      value={value}
      onChange={(e) => onWrite(e.target.value)}
    />
  )
}
