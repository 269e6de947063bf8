import type { ReactNode } from 'react'

/** Words of which one is chosen, underlined. */
export function WordTabs<Key extends string | number>({
  label,
  tabs,
  chosen,
  onChoose,
  className = '',
  children,
}: {
  label: string
  tabs: readonly (readonly [Key, ReactNode])[]
  chosen: Key
  onChoose: (key: Key) => void
  className?: string
  /** What else stands in the line. */
  children?: ReactNode
}) {
  return (
    <fieldset aria-label={label} className={`flex flex-wrap items-baseline gap-x-5 gap-y-1 ${className}`}>
      {tabs.map(([key, words]) => (
        <button
          key={key}
          type="button"
          aria-pressed={key === chosen}
          className={
            key === chosen
              ? 'min-h-6 font-semibold underline decoration-plum decoration-2 underline-offset-[6px]'
              : 'min-h-6 text-quiet hover:text-ink'
          }
          onClick={() => onChoose(key)}
        >
          {words}
        </button>
      ))}
      {children}
    </fieldset>
  )
}

/** What stands in the same line and shows something otherwise, or as it was. */
export function Switch({
  on,
  words: [show, back],
  onPress,
}: {
  on: boolean
  /** What it does while it is off, and while it is on. */
  words: readonly [string, string]
  onPress: (on: boolean) => void
}) {
  return (
    <button type="button" className="min-h-6 text-quiet hover:text-ink" onClick={() => onPress(!on)}>
      {on ? back : show}
    </button>
  )
}

/** The widths at which a page is looked at: those of a desktop, a tablet and a phone, CSS pixels. */
export const widths = [1280, 820, 390] as const
export type Width = (typeof widths)[number]

/** At which width a page is looked at, or at all of them side by side. */
export function WidthTabs({
  label,
  names,
  all,
  width,
  onChoose,
  children,
}: {
  label: string
  names: readonly string[]
  /** What all of them side by side are called. */
  all: string
  width: Width | 'all'
  onChoose: (width: Width | 'all') => void
  /** What else stands in the line, at its end. */
  children?: ReactNode
}) {
  const tabs: (readonly [Width | 'all', ReactNode])[] = widths.map((each, i) => [
    each,
    <span key={each}>
      {names[i]} <span className="tabular-nums">{each}</span>
    </span>,
  ])
  tabs.push(['all', all])
  return (
    <WordTabs label={label} tabs={tabs} chosen={width} onChoose={onChoose} className="mb-3 text-small">
      <span className="ml-auto flex flex-wrap items-baseline gap-x-5">{children}</span>
    </WordTabs>
  )
}
