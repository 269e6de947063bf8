import { Link } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { hand } from '../shell/hand'
import { tell, tellDone } from '../shell/news'

type Tally = Partial<Record<keyof typeof w.intake.tally, number>>

/** An intake's figures as one line of words. */
export function tallyOf(line: Api['IntakeLine'], toSend = 0): string {
  const all: Tally = {
    ready: line.ready,
    waiting: line.waiting,
    unpacking: line.unpacking,
    sending: toSend,
    already: line.alreadyHere,
    kept: line.kept,
    sidecars: line.sidecars,
    // A photo that is still on its way is not missing.
    alone: toSend + line.sending + line.unpacking > 0 ? 0 : line.alone,
    skipped: line.skipped,
    failed: line.failed,
  }
  return Object.entries(all)
    .filter(([, n]) => n > 0)
    .map(([name, n]) => w.intake.tally[name as keyof typeof w.intake.tally](n))
    .join(', ')
}

/** What can be done with what an intake has brought so far. */
export function TakeThem({ intake }: { intake: string }) {
  const take = useAct(
    () => body(api.GET('/api/intakes/{intake}/photos', { params: { path: { intake } } }), w.errors.away),
    (out) => void hand.take(out.photos),
  )
  return (
    <>
      <Button look="word" onClick={() => take.mutate(undefined)}>
        {w.intake.take}
      </Button>
      <Link
        to="/workroom/photos"
        search={{ intake, sort: 'arrived' }}
        className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
      >
        {w.intake.see}
      </Link>
    </>
  )
}

/** The photos that came last, as far as they can be seen already. */
export function Latest({ files }: { files: readonly Api['IntakeFile'][] }) {
  const seen = files.filter((f) => f.photo && (f.state === 'ready' || f.preview))
  if (seen.length === 0) return null
  return (
    <section className="mt-6" aria-label={w.intake.latest}>
      <ul className="flex h-[88px] flex-wrap gap-1.5 overflow-hidden">
        {seen.map((f) => (
          <li key={f.number}>
            <img
              src={
                f.state === 'ready' && f.picture
                  ? rendition(f.picture, 480)
                  : `/api/photos/${f.photo}/preview`
              }
              alt={f.fileName}
              title={f.fileName}
              className="h-[88px] w-auto"
              decoding="async"
            />
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What was not taken, by cause: what is wrong, what helps, and what can be done about it here. */
export function Failures({ intake, groups }: { intake: string; groups: readonly Api['FailureGroup'][] }) {
  const retry = useAct(
    () => body(api.POST('/api/intakes/{intake}/retry', { params: { path: { intake } } }), w.errors.away),
    (out) => tell({ text: w.intake.retried(out.count) }),
  )
  const drop = useAct(
    (cause: string) =>
      body(
        api.POST('/api/intakes/{intake}/drop', { params: { path: { intake } }, body: { cause } }),
        w.errors.away,
      ),
    (out) => tellDone(w.intake.dropped(out.count), out.done),
  )
  if (groups.length === 0) return null
  return (
    <section className="mt-7" aria-label={w.intake.failures}>
      <h2 className="mb-1 text-lead">{w.intake.failures}</h2>
      <ul>
        {groups.map((g) => (
          <li
            key={g.cause}
            className="grid grid-cols-[3rem_minmax(0,1fr)_auto] gap-x-4 border-t border-line py-2.5"
          >
            <span className="font-display text-lead leading-6 font-semibold tabular-nums">
              {w.count(g.count)}
            </span>
            <div className="min-w-0">
              <p>
                {g.sentence} {g.remedy && <span className="font-semibold">{g.remedy}</span>}
              </p>
              <p className="mt-0.5 truncate text-small text-quiet">
                {g.names.join(', ')}
                {g.count > g.names.length && ` ${w.intake.andMore(g.count - g.names.length)}`}
              </p>
            </div>
            <span className="flex gap-4">
              {g.canRetry > 0 && (
                <Button look="word" onClick={() => retry.mutate(undefined)}>
                  {w.intake.again}
                </Button>
              )}
              <Button look="word" onClick={() => drop.mutate(g.cause)}>
                {w.intake.dropThem(g.count)}
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
