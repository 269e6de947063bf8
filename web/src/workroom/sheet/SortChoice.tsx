import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import type { SheetQuery } from './useSheet'

const offered = ['taken', 'arrived', 'name', 'title', 'rating', 'views'] as const
type Sort = NonNullable<SheetQuery['sort']>

/** What an order is called: "date taken, newest first". */
export function sortWords(sort: Sort, back: boolean) {
  if (sort === 'place') return w.sheet.byHand
  const way =
    sort === 'name' || sort === 'title'
      ? back
        ? w.sheet.za
        : w.sheet.az
      : sort === 'views'
        ? back
          ? w.sheet.least
          : w.sheet.most
        : sort === 'rating'
          ? back
            ? w.sheet.worst
            : w.sheet.best
          : back
            ? w.sheet.oldest
            : w.sheet.newest
  return `${w.sheet.sorts[sort]}, ${way}`
}

/** An order, chosen in words where it stands in a sentence. */
export function SortChoice({
  label,
  sort,
  reversed,
  byHand = false,
  className = '',
  onChange,
}: {
  label: string
  sort: Sort
  reversed: boolean
  /** Whether it may be made by hand. */
  byHand?: boolean
  className?: string
  onChange: (sort: Sort, reversed: boolean) => void
}) {
  const choices = [
    ...(byHand ? [['place', w.sheet.byHand] as const] : []),
    ...offered.flatMap((s) => [[s, sortWords(s, false)] as const, [`${s}-`, sortWords(s, true)] as const]),
  ]
  return (
    <WordSelect
      label={label}
      className={className}
      value={`${sort}${reversed ? '-' : ''}`}
      choices={choices}
      onChoose={(chosen) =>
        onChange(offered.find((s) => s === chosen.replace('-', '')) ?? 'place', chosen.endsWith('-'))
      }
    />
  )
}
