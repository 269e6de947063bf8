/** A value moved along a line: by dragging, with the arrows, or back to where it rests by pressing its name twice. */
export function Range({
  label,
  value,
  least,
  most,
  step = 1,
  rest = 0,
  says,
  onBegin,
  onChange,
}: {
  label: string
  value: number
  least: number
  most: number
  step?: number
  /** Where it goes back to. */
  rest?: number
  /** The value in words, at the line's end. */
  says: string
  onBegin?: () => void
  onChange: (value: number) => void
}) {
  const at = (v: number) => `${((v - least) / (most - least)) * 100}%`
  const [from, to] = value < rest ? [value, rest] : [rest, value]
  return (
    <label className="block" onDoubleClick={() => onChange(rest)}>
      <span className="flex items-baseline justify-between">
        <span>{label}</span>
        <span className={`tabular-nums ${value === rest ? 'text-quiet' : 'font-semibold'}`}>{says}</span>
      </span>
      <input
        type="range"
        className="range"
        min={least}
        max={most}
        step={step}
        value={value}
        aria-valuetext={says}
        style={{ '--from': at(from), '--to': at(to), '--rest': at(rest) } as React.CSSProperties}
        onPointerDown={onBegin}
        onFocus={onBegin}
        onChange={(e) => onChange(Number(e.target.value))}
      />
    </label>
  )
}
