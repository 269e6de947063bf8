/** A number that stands in a sentence as a word of it; typed over, it counts when one leaves it. */
export function NumberWord({
  label,
  value,
  least,
  most,
  onSay,
}: {
  label: string
  value: number
  least: number
  most: number
  onSay: (value: number) => void
}) {
  function say(field: HTMLInputElement) {
    const said = Math.round(Number(field.value))
    if (!field.value.trim() || !Number.isFinite(said)) field.value = String(value)
    else {
      const bounded = Math.min(most, Math.max(least, said))
      field.value = String(bounded)
      if (bounded !== value) onSay(bounded)
    }
  }
  return (
    <input
      key={value}
      inputMode="numeric"
      defaultValue={value}
      aria-label={label}
      title={`${least} – ${most}`}
      className="min-w-6 border-b border-strong-line bg-transparent text-center font-semibold tabular-nums outline-none [field-sizing:content] hover:border-ink focus:border-plum"
      onFocus={(e) => e.target.select()}
      onBlur={(e) => say(e.target)}
      onKeyDown={(e) => {
        const by = { ArrowUp: 1, ArrowDown: -1 }[e.key]
        if (by) {
          e.preventDefault()
          e.currentTarget.value = String(Number(e.currentTarget.value) + by * (e.shiftKey ? 10 : 1))
          say(e.currentTarget)
        }
        if (e.key === 'Enter') e.currentTarget.blur()
        if (e.key === 'Escape') {
          e.currentTarget.value = String(value)
          e.currentTarget.blur()
        }
      }}
    />
  )
}
