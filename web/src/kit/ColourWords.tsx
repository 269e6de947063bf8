import { useEffect, useState } from 'react'
import { w } from '../words'

/** Colours that are offered; any other is typed. */
const offered = [
  '#161616',
  '#fafafa',
  '#e8dfce',
  '#c9dde6',
  '#1f4d5c',
  '#3d4f38',
  '#9a4528',
  '#6d2749',
] as const

/** A colour chosen in a sentence: one of those offered, or one that is typed as # and six digits or letters. */
export function ColourWords({
  label,
  colour,
  onSay,
}: {
  label: string
  colour: string
  onSay: (colour: string) => void
}) {
  const [typed, setTyped] = useState(colour)
  useEffect(() => setTyped(colour), [colour])
  return (
    <fieldset className="flex flex-wrap items-center gap-x-1 gap-y-1" aria-label={label}>
      {offered.map((each) => (
        <button
          key={each}
          type="button"
          aria-label={w.ground.names[each]}
          title={w.ground.names[each]}
          aria-pressed={each === colour}
          className={`size-6 border ${each === colour ? 'border-plum outline-2 outline-offset-1 outline-plum' : 'border-strong-line hover:border-ink'}`}
          style={{ background: each }}
          onClick={() => onSay(each)}
        />
      ))}
      <input
        aria-label={w.ground.typed(label)}
        value={typed}
        maxLength={7}
        spellCheck={false}
        className="ml-1.5 w-[4.8rem] border-b border-strong-line bg-transparent font-semibold tabular-nums outline-none focus:border-plum"
        onChange={(e) => {
          setTyped(e.target.value)
          const said = e.target.value.trim().toLowerCase().replace(/^#?/, '#')
          if (/^#[0-9a-f]{6}$/.test(said)) onSay(said)
        }}
        onBlur={() => setTyped(colour)}
      />
    </fieldset>
  )
}
