import { w } from '../../words'
import type { SheetQuery } from './useSheet'

const offered = ['taken', 'arrived', 'name', 'title', 'rating'] as const
type Sort = NonNullable<SheetQuery['sort']>

/** What an order is called: "date taken, newest first". */
export function sortWords(sort: Sort, back: boolean) {
  if (sort === 'place') return w.sheet.byHand
  const way =
    sort === 'name' || sort === 'title'
      ? back
        ? w.sheet.za
        : w.sheet.az
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
  return (
    <select
      aria-label={label}
      className={`cursor-pointer bg-transparent [field-sizing:content] ${className}`}
      value={`${sort}${reversed ? '-' : ''}`}
      onChange={(e) => {
        const named = e.target.value.replace('-', '')
        onChange(offered.find((s) => s === named) ?? 'place', e.target.value.endsWith('-'))
      }}
    >
      {byHand && (
        <option value="place" className="bg-raised">
          {w.sheet.byHand}
        </option>
      )}
      {offered.flatMap((s) =>
        [false, true].map((back) => (
          <option key={`${s}${back}`} value={`${s}${back ? '-' : ''}`} className="bg-raised">
            {sortWords(s, back)}
          </option>
        )),
      )}
    </select>
  )
}
