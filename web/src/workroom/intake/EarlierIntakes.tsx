import { Link } from '@tanstack/react-router'
import type { Api } from '../../api/client'
import { w } from '../../words'
import { moment } from '../shell/format'
import { tallyOf } from './Report'

/** Intakes of before, each with what came of it; a press opens it. */
export function EarlierIntakes({ intakes }: { intakes: readonly Api['IntakeLine'][] }) {
  const some = intakes.filter((i) => i.files + i.sending > 0)
  if (some.length === 0) return null
  return (
    <section className="mt-12">
      <h2 className="mb-2 text-lead">{w.intake.earlier}</h2>
      <ul>
        {some.map((i) => (
          <li key={i.id}>
            <Link
              to="/workroom/intake/$intake"
              params={{ intake: i.id }}
              className="grid grid-cols-[minmax(0,18rem)_minmax(0,1fr)] gap-x-6 border-t border-line py-2 text-small hover:border-strong-line"
            >
              <span>
                <span className="underline decoration-strong-line decoration-1 underline-offset-4">
                  {moment(i.begun)}
                </span>
                <span className="text-quiet">
                  {', '}
                  {i.label ? w.intake.from(i.label) : i.begunBy}
                </span>
              </span>
              <span>
                {i.takenBack ? w.intake.takenBack : tallyOf(i)}
                {i.albumName && <span className="text-quiet"> {w.intake.into(i.albumName)}</span>}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}
