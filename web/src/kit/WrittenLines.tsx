/** Lines that somebody writes, below what they are. */
export function WrittenLines({
  label,
  lead,
  value,
  rows,
  most,
  hint,
  onSay,
}: {
  label: string
  /** What is said of them where that is more than what they are called. */
  lead?: string
  value: string
  rows: number
  most: number
  hint?: string
  onSay: (value: string) => void
}) {
  return (
    <label className="mt-1 block">
      <span className="block text-small text-quiet">{lead ?? label}</span>
      <textarea
        aria-label={label}
        value={value}
        rows={rows}
        maxLength={most}
        placeholder={hint}
        onChange={(e) => onSay(e.target.value)}
        className="mt-1 w-full resize-y border-b border-strong-line bg-transparent py-1 outline-none placeholder:text-quiet focus:border-plum"
      />
    </label>
  )
}
