import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'

/** A level at which something of the look is said: of the whole site, of one page, or of one block. */
export type Level = 'site' | 'page' | 'block'

/** A choice that comes from the level above until something else is said, and can come from there again. */
export function Own<Value extends string>({
  level,
  label,
  said,
  own,
  names,
  onSay,
}: {
  level: Level
  label: string
  said: Value | null
  own: Value
  /** What each of them is called, in their order. */
  names: Readonly<Record<Value, string>>
  onSay: (value: Value | null) => void
}) {
  return (
    <>
      <WordSelect
        label={label}
        value={own}
        choices={Object.entries(names) as [Value, string][]}
        onChoose={onSay}
      />
      <Back level={level} label={label} isSaid={said !== null} onSay={() => onSay(null)} />
    </>
  )
}

/** The way back to the level above, where something is said. */
export function Back({
  level,
  label,
  isSaid,
  onSay,
}: {
  level: Level
  label: string
  isSaid: boolean
  onSay: () => void
}) {
  return (
    isSaid && (
      <Button look="word" aria-label={w.themes.backOf[level](label)} onClick={onSay}>
        {w.themes.back[level]}
      </Button>
    )
  )
}

export function Says({ children }: { children: React.ReactNode }) {
  return <p className="mt-2 flex flex-wrap items-baseline gap-x-1.5 gap-y-1">{children}</p>
}
