import type { Api } from '../../api/client'
import { w } from '../../words'
import { moment } from '../shell/format'

/** Intakes of before, each with what came of it. */
export function EarlierIntakes({ intakes }: { intakes: readonly Api['IntakeLine'][] }) {
  if (intakes.length === 0) return null
  return (
    <section className="mt-12">
      <h2 className="mb-2 text-lead">{w.intake.earlier}</h2>
      <ul>
        {intakes
          .filter((i) => i.files > 0)
          .map((i) => (
            <li
              key={i.id}
              className="grid grid-cols-[minmax(0,16rem)_minmax(0,1fr)] gap-x-6 border-t border-line py-2 text-small"
            >
              <span className="text-quiet">{w.intake.by(i.begunBy, moment(i.begun))}</span>
              <span>
                {[
                  i.ready > 0 && w.intake.tally.ready(i.ready),
                  i.waiting > 0 && w.intake.tally.waiting(i.waiting),
                  i.alreadyHere > 0 && w.intake.tally.already(i.alreadyHere),
                  i.failed > 0 && w.intake.tally.failed(i.failed),
                ]
                  .filter(Boolean)
                  .join(', ')}
                {i.albumName && <span className="text-quiet"> {w.intake.into(i.albumName)}</span>}
              </span>
            </li>
          ))}
      </ul>
    </section>
  )
}
