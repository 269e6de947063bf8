import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { NumberWord } from '../../kit/NumberWord'
import { PriceWord } from '../../kit/PriceWord'
import { w } from '../../words'

type Step = Api['WeightStepSaid']

const most = 8
const heaviest = 100_000

type Heavier = {
  /** What is sent so, for its fields’ labels. */
  label: string
  /** The lightest first; null for none. */
  steps: readonly Step[] | null | undefined
  onSay: (steps: Step[] | null) => void
}

/** What heavier orders cost to send; what others cost stands before it. */
export function HeavierSteps({ label, steps: said, invalid, onSay }: Heavier & { invalid: boolean }) {
  const steps = said ?? []
  const put = (next: Step[]) => onSay(next.length > 0 ? next : null)
  const change = (i: number, next: Partial<Step>) =>
    put(steps.map((step, n) => (n === i ? { ...step, ...next } : step)))
  return (
    <>
      {steps.map((step, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a step has nothing of its own that stays.
        <span key={i} className="whitespace-nowrap">
          {w.shop.over}{' '}
          <NumberWord
            label={w.shop.overLabel(label)}
            value={step.over}
            least={1}
            most={heaviest}
            onSay={(over) => change(i, { over })}
          />{' '}
          {w.shop.grams}{' '}
          <PriceWord
            label={w.shop.overCosts(label, step.over)}
            value={step.costs}
            hint={w.shop.notSent}
            invalid={invalid}
            onSay={(costs) => change(i, { costs })}
          />
          <Button
            look="word"
            aria-label={w.shop.removeStep(label, step.over)}
            className="px-1 text-quiet"
            onClick={() => put(steps.filter((_, n) => n !== i))}
          >
            <span aria-hidden>×</span>
          </Button>
        </span>
      ))}
    </>
  )
}

/** The verb that says what still heavier orders cost. */
export function AddHeavier({ label, steps: said, onSay }: Heavier) {
  const steps = said ?? []
  const last = steps.at(-1)
  // Beyond what is not sent there is nothing to be said.
  if (steps.length >= most || last?.costs === '') return null
  return (
    <Button
      look="word"
      className="ml-1.5 text-small"
      aria-label={w.shop.addStepLabel(label)}
      onClick={() =>
        onSay([...steps, { over: last ? Math.min(heaviest, last.over * 2) : 500, costs: last?.costs ?? '' }])
      }
    >
      {last ? w.shop.addStep : w.shop.byWeight}
    </Button>
  )
}
