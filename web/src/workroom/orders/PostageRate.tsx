import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { NumberWord } from '../../kit/NumberWord'
import { PriceWord } from '../../kit/PriceWord'
import { w } from '../../words'

type Step = Api['WeightStepSaid']

const most = 8
const heaviest = 100_000

/** What an order costs to send, and what heavier ones cost; the amount itself stands before it. */
export function HeavierSteps({
  label,
  steps,
  invalid,
  onSay,
}: {
  /** What is sent so, for its fields’ labels. */
  label: string
  steps: readonly Step[]
  invalid: boolean
  onSay: (steps: Step[] | null) => void
}) {
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
          />{' '}
          <Button
            look="word"
            aria-label={w.shop.removeStep(label, step.over)}
            className="px-1.5 text-quiet no-underline"
            onClick={() => put(steps.filter((_, n) => n !== i))}
          >
            <span aria-hidden>×</span>
          </Button>
        </span>
      ))}{' '}
      {steps.length < most && (
        <Button
          look="word"
          className="text-small"
          aria-label={w.shop.addStepLabel(label)}
          onClick={() =>
            put([
              ...steps,
              { over: Math.min(heaviest, (steps.at(-1)?.over ?? 500) * (steps.length ? 2 : 1)), costs: '' },
            ])
          }
        >
          {steps.length === 0 ? w.shop.byWeight : w.shop.addStep}
        </Button>
      )}
    </>
  )
}
