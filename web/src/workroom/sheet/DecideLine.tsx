import type { Api } from '../../api/client'
import { Choice, KeyHint } from '../../kit/Button'
import { w } from '../../words'
import { type Decided, decisionKeys, ratings } from './useDecide'

const on = 'font-semibold text-plum decoration-plum'

/** What was decided about the photo, as words and figures to press; pressed again, it is taken back. */
export function DecideLine({
  plate,
  bare = true,
  onDecide,
}: {
  plate: Pick<Api['Plate'], 'decision' | 'rating'>
  /** Whether keys act on this one. */
  bare?: boolean
  onDecide: (what: Decided) => void
}) {
  return (
    <div className="mt-2.5 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-small">
      {Object.entries(decisionKeys).map(([key, decision]) => (
        <Choice
          key={key}
          on={plate.decision === decision}
          onClick={() => onDecide({ decision: plate.decision === decision ? '' : decision })}
        >
          {w.decide.verbs[decision]}
          {bare && <KeyHint>{key.toUpperCase()}</KeyHint>}
        </Choice>
      ))}
      <fieldset className="flex items-baseline gap-2.5" aria-label={w.decide.rating}>
        <span className="text-quiet" aria-hidden>
          {w.decide.rating}
        </span>
        {ratings.map((rating) => (
          <button
            key={rating}
            type="button"
            aria-pressed={plate.rating === rating}
            aria-label={w.decide.rate(rating)}
            className={`min-h-6 min-w-6 tabular-nums ${plate.rating === rating ? `${on} underline decoration-2 underline-offset-[5px]` : 'text-quiet hover:text-ink'}`}
            onClick={() => onDecide({ rating })}
          >
            {rating}
          </button>
        ))}
      </fieldset>
    </div>
  )
}
