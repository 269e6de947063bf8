import { w } from '../../words'
import type { Option } from './data'
import { numberOf, Paragraph, Word } from './OptionWords'

/** How often a file may be fetched, for how long, and what may be done with it. */
export function OptionFile({ option, onSay }: { option: Option; onSay: (next: Partial<Option>) => void }) {
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-1.5">
        <Word
          label={w.prices.fetchedLabel}
          value={`${option.downloads ?? ''}`}
          hint={w.prices.fetchedHint}
          width="min-w-28"
          digits
          onSay={(n) => onSay({ downloads: numberOf(n) })}
        >
          {w.prices.fetched}
        </Word>
        <Word
          label={w.prices.daysLabel}
          value={`${option.days ?? ''}`}
          hint={w.prices.daysHint}
          width="min-w-10"
          digits
          onSay={(n) => onSay({ days: numberOf(n) })}
        >
          {w.prices.times}
        </Word>
        <span>{w.prices.days}</span>
      </p>
      <Paragraph
        label={w.prices.licence}
        value={option.licence ?? ''}
        most={4000}
        onSay={(licence) => onSay({ licence })}
      />
    </>
  )
}
