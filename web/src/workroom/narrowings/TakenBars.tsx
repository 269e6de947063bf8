import { useRef, useState } from 'react'
import type { Api } from '../../api/client'
import { w } from '../../words'
import { none } from './narrowing'
import { takenWords } from './says'

/** So many bars each have their own words beneath; of more only the first and the last. */
const few = 12

/** A bar's own words: the day, the month, or the year. */
function shortWords(choice: string) {
  const [year = '', month, day] = choice.split('-')
  if (!month) return year
  return new Date(Date.UTC(2000, Number(month) - 1, Number(day ?? 1))).toLocaleDateString('en-GB', {
    ...(day && { day: 'numeric' }),
    month: 'short',
    timeZone: 'UTC',
  })
}

/** The steps from the first bar to the last, those in between without photos, too. */
function everyStep(bars: readonly Api['CountedChoice'][]): { choice: string; count: number }[] {
  const [first, last] = [bars[0]?.choice, bars.at(-1)?.choice]
  if (!first || !last) return []
  const count = new Map(bars.map((bar) => [bar.choice, bar.count]))
  const all: { choice: string; count: number }[] = []
  const [year, month, day] = first.split('-').map(Number)
  for (const at = new Date(Date.UTC(year ?? 0, (month ?? 1) - 1, day ?? 1)); all.length < 400; ) {
    const choice = at.toISOString().slice(0, first.length)
    all.push({ choice, count: count.get(choice) ?? 0 })
    if (choice >= last) break
    if (first.length === 10) at.setUTCDate(at.getUTCDate() + 1)
    else if (first.length === 7) at.setUTCMonth(at.getUTCMonth() + 1)
    else at.setUTCFullYear(at.getUTCFullYear() + 1)
  }
  return all
}

/** When the photos were taken, as bars one can press or brush over; a press on what is chosen lets it go. */
export function TakenBars({
  bars,
  chosen,
  onChoose,
}: {
  bars: readonly Api['CountedChoice'][]
  chosen: readonly string[]
  onChoose: (choices: readonly string[]) => void
}) {
  const dated = everyStep(bars.filter((bar) => bar.choice !== none))
  const most = Math.max(1, ...dated.map((bar) => bar.count))
  const begun = useRef<number | null>(null)
  const [brushed, setBrushed] = useState<readonly [number, number] | null>(null)
  const within = (bar: string) =>
    chosen.some((choice) => {
      const [from = '', to = from] = choice.split('--')
      return bar.slice(0, from.length) >= from && bar.slice(0, to.length) <= to
    })
  const [low, high] = brushed ? [Math.min(...brushed), Math.max(...brushed)] : [-1, -1]
  function finish() {
    const [from, to] = [dated[low]?.choice, dated[high]?.choice]
    begun.current = null
    setBrushed(null)
    if (!from || !to) return
    const next = from === to ? from : `${from}--${to}`
    onChoose(chosen.length === 1 && chosen[0] === next ? [] : [next])
  }
  if (dated.length === 0) return <p className="text-small text-quiet">{w.narrowing.noDates}</p>
  const first = dated[0]?.choice ?? ''
  const last = dated.at(-1)?.choice ?? ''
  return (
    <div className={`min-w-0 ${dated.length <= few ? 'w-fit' : 'flex-[3]'}`}>
      <div
        className="flex h-16 touch-none items-end gap-[2px] select-none"
        onPointerUp={finish}
        onPointerCancel={() => {
          begun.current = null
          setBrushed(null)
        }}
      >
        {dated.map((bar, i) => {
          const on = brushed ? i >= low && i <= high : within(bar.choice)
          return (
            <button
              key={bar.choice}
              type="button"
              aria-pressed={on}
              aria-label={`${takenWords(bar.choice)}: ${w.photos(bar.count)}`}
              title={`${takenWords(bar.choice)}: ${w.photos(bar.count)}`}
              className={`group flex h-full items-end ${dated.length <= few ? 'w-16' : 'min-w-[3px] flex-1'}`}
              onPointerDown={(e) => {
                e.currentTarget.releasePointerCapture(e.pointerId)
                begun.current = i
                setBrushed([i, i])
              }}
              onPointerEnter={() => begun.current !== null && setBrushed([begun.current, i])}
              onKeyDown={(e) => {
                if (e.key !== 'Enter' && e.key !== ' ') return
                e.preventDefault()
                onChoose(chosen.length === 1 && chosen[0] === bar.choice ? [] : [bar.choice])
              }}
            >
              <span
                className={`block w-full ${on ? 'bg-plum' : 'bg-strong-line group-hover:bg-ink'}`}
                style={{ height: bar.count === 0 ? 1 : `${Math.max(4, (100 * bar.count) / most)}%` }}
              />
            </button>
          )
        })}
      </div>
      {dated.length <= few ? (
        <div className="mt-1 flex gap-[2px] border-t border-line pt-1 text-small text-quiet" aria-hidden>
          {dated.map((bar) => (
            <span key={bar.choice} className="w-16 truncate text-center">
              {shortWords(bar.choice)}
            </span>
          ))}
        </div>
      ) : (
        <div className="mt-1 flex justify-between border-t border-line pt-1 text-small text-quiet">
          <span>{takenWords(first)}</span>
          <span>{takenWords(last)}</span>
        </div>
      )}
      <p className="min-h-5 text-small font-semibold text-plum" aria-hidden>
        {brushed &&
          low >= 0 &&
          `${takenWords(low === high ? (dated[low]?.choice ?? '') : `${dated[low]?.choice}--${dated[high]?.choice}`)}: ${w.photos(dated.slice(low, high + 1).reduce((sum, bar) => sum + bar.count, 0))}`}
      </p>
    </div>
  )
}
