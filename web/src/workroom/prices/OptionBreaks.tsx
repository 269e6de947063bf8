import { Button } from '../../kit/Button'
import { NumberWord } from '../../kit/NumberWord'
import { w } from '../../words'
import type { Option } from './data'
import { Word } from './OptionWords'

/** What each of several costs, one sentence a number. */
export function OptionBreaks({ option, onSay }: { option: Option; onSay: (next: Partial<Option>) => void }) {
  const breaks = option.breaks ?? []
  const put = (i: number, next: Partial<(typeof breaks)[number]>) =>
    onSay({ breaks: breaks.map((b, n) => (n === i ? { ...b, ...next } : b)) })
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      {breaks.map((step, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a step has nothing of its own that stays.
        <span key={i} className="whitespace-nowrap">
          {w.prices.breaks}{' '}
          <NumberWord
            label={w.prices.breakFrom}
            value={step.from}
            least={2}
            most={10000}
            onSay={(from) => put(i, { from })}
          />{' '}
          <Word
            label={w.prices.breakEach}
            value={step.each}
            hint={w.prices.priceHint}
            width="min-w-12"
            onSay={(each) => put(i, { each })}
          >
            {w.prices.each}
          </Word>{' '}
          <Button look="word" onClick={() => onSay({ breaks: breaks.filter((_, n) => n !== i) })}>
            {w.prices.removeBreak}
          </Button>
        </span>
      ))}
      {breaks.length < 6 && (
        <Button
          look="word"
          onClick={() =>
            onSay({
              breaks: [
                ...breaks,
                { from: (breaks.at(-1)?.from ?? 0) + 5, each: breaks.at(-1)?.each ?? option.price ?? '' },
              ],
            })
          }
        >
          {w.prices.addBreak}
        </Button>
      )}
    </p>
  )
}
