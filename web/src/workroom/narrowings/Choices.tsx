import { useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { type NarrowingSearch, none, type Part, saying } from './narrowing'
import { choiceWords } from './says'
import { TakenBars } from './TakenBars'

/** So many choices stand side by side; of more, one types what one looks for. */
const most = 18

/** Choices of the tree, each beneath the one it stands in. */
function inTree(choices: readonly Api['CountedChoice'][]) {
  const there = new Set(choices.map((c) => c.choice))
  const beneath = (parent: string | null, depth: number): (Api['CountedChoice'] & { depth: number })[] =>
    choices
      .filter((c) => (c.within && there.has(c.within) ? c.within : null) === parent)
      .flatMap((c) => [{ ...c, depth }, ...beneath(c.choice, depth + 1)])
  return beneath(null, 0)
}

/** The choices of one part, opened in place beneath the sentence: what each would find, those chosen marked. */
export function Choices({
  part,
  choices,
  onChange,
  onTurn,
}: {
  part: Part
  choices: readonly Api['CountedChoice'][]
  onChange: (next: NarrowingSearch) => void
  onTurn: () => void
}) {
  const [typed, setTyped] = useState('')
  const { kind } = part
  const wanted = typed.trim().toLowerCase()
  const listed = (kind === 'category' ? inTree(choices) : choices.map((c) => ({ ...c, depth: 0 }))).filter(
    (c) => kind !== 'taken' || c.choice === none,
  )
  const said = (c: Api['CountedChoice']) => choiceWords(kind, c.choice, c.name)
  const fits = listed.filter((c) => wanted === '' || said(c).toLowerCase().includes(wanted))
  // What is chosen stays in sight, however many others there are.
  const shown = [...fits.filter((c, i) => i < most || part.choices.includes(c.choice))]
  const toggle = (choice: string) =>
    onChange(
      saying({
        ...part,
        choices: part.choices.includes(choice)
          ? part.choices.filter((c) => c !== choice)
          : [...part.choices, choice],
      }),
    )
  return (
    <section aria-label={w.narrowing.kinds[kind]} className="flex flex-wrap gap-x-8 gap-y-3 pt-3 pb-3.5">
      {kind === 'taken' && (
        <TakenBars
          bars={choices}
          chosen={part.choices}
          onChoose={(next) => onChange(saying({ ...part, choices: next }))}
        />
      )}
      <div className={kind === 'taken' ? 'min-w-48 flex-1' : 'min-w-0 flex-[3]'}>
        {(listed.length > most || typed !== '') && (
          <input
            type="search"
            className="mb-2 w-56 border-b border-strong-line bg-transparent pb-0.5 text-small outline-none focus:border-plum"
            aria-label={w.narrowing.find(w.narrowing.kinds[kind])}
            placeholder={w.narrowing.find(w.narrowing.kinds[kind])}
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
            onKeyDown={(e) => e.key === 'Enter' && fits[0] && toggle(fits[0].choice)}
          />
        )}
        <ul className={shown.length > 5 ? 'columns-[13rem] gap-x-8' : 'max-w-80'}>
          {shown.map((c) => {
            const on = part.choices.includes(c.choice)
            return (
              <li
                key={c.choice}
                className="break-inside-avoid"
                style={{ paddingLeft: `${c.depth * 0.9}rem` }}
              >
                <button
                  type="button"
                  aria-pressed={on}
                  onClick={() => toggle(c.choice)}
                  className={`flex min-h-6 w-full items-baseline gap-1.5 py-[2px] text-left text-small ${on ? 'font-semibold text-plum' : c.count === 0 ? 'text-quiet' : 'hover:text-plum'}`}
                >
                  <span className="truncate">{said(c)}</span>
                  <span
                    className={`min-w-3 flex-1 translate-y-[-3px] border-b border-dotted ${on ? 'border-plum' : 'border-line'}`}
                    aria-hidden
                  />
                  <span className="tabular-nums">{w.count(c.count)}</span>
                </button>
              </li>
            )
          })}
        </ul>
        {shown.length === 0 && kind !== 'taken' && (
          <p className="text-small text-quiet">{w.narrowing.noChoice}</p>
        )}
        {fits.length > shown.length && (
          <p className="mt-1 text-small text-quiet">{w.narrowing.andMore(fits.length - shown.length)}</p>
        )}
      </div>
      {part.choices.length > 0 && (
        <div className="flex w-44 flex-col items-start gap-1.5 text-small">
          <Button look="word" onClick={onTurn}>
            {part.not ? w.narrowing.plainly : w.narrowing.turn}
          </Button>
          <Button look="word" onClick={() => onChange(saying({ ...part, choices: [] }))}>
            {w.narrowing.drop}
          </Button>
        </div>
      )}
    </section>
  )
}
