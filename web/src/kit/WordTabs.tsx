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
    <fieldset aria-label={label} className={`flex flex-wrap gap-x-5 ${className}`}>
      {tabs.map(([key, words]) => (
        <button
          key={key}
          type="button"
          aria-pressed={key === chosen}
          className={
            key === chosen
              ? 'font-semibold underline decoration-plum decoration-2 underline-offset-[6px]'
              : 'text-quiet hover:text-ink'
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

const widths = [1280, 820, 390] as const
type Width = (typeof widths)[number]

/** The widths at which a page is looked at: those of a desktop, a tablet and a phone, CSS pixels. */
export function WidthTabs({
  label,
  names,
  width,
  onChoose,
  children,
}: {
  label: string
  names: readonly string[]
  width: Width
  onChoose: (width: Width) => void
  children?: ReactNode
}) {
  const tabs = widths.map(
    (each, i) =>
      [
        each,
        <span key={each}>
          {names[i]} <span className="tabular-nums">{each}</span>
        </span>,
      ] as const,
  )
  return (
    <WordTabs label={label} tabs={tabs} chosen={width} onChoose={onChoose} className="mb-3 text-small">
      {children}
    </WordTabs>
  )
}
