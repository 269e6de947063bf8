import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { searchFrom } from '../narrowings/kept'
import { FirstHour } from '../opening/FirstHour'
import { firstHour } from '../opening/useFront'
import { useAct } from '../shell/data'
import { bytes } from '../shell/format'
import { tell } from '../shell/news'
import { Empty, Heading } from '../shell/Station'
import { SentFavourites } from './SentFavourites'
import { ShownNowhere } from './ShownNowhere'

const away = w.errors.away

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-t border-line py-5">
      <h2 className="mb-2.5 text-lead">{title}</h2>
      {children}
    </section>
  )
}

/** What waits at another station, and the way there. */
function Waiting({
  title,
  says,
  to,
  verb,
}: {
  title: string
  says: string
  to:
    | '/workroom/orders'
    | '/workroom/contributions'
    | '/workroom/comments'
    | '/workroom/orders'
    | '/workroom/repeats'
  verb: string
}) {
  return (
    <Part title={title}>
      <p>
        {says}{' '}
        <Link to={to} className="underline decoration-strong-line decoration-1 underline-offset-4">
          {verb}
        </Link>
      </p>
    </Part>
  )
}

/** The first screen: what runs, what failed, which albums are shown nowhere. */
export function DeskStation() {
  const go = useNavigate()
  const desk = useQuery({
    queryKey: ['desk'],
    queryFn: () => body(api.GET('/api/desk'), away),
    refetchInterval: (q) =>
      (q.state.data?.figures.waiting ?? 0) + (q.state.data?.figures.larger ?? 0) > 0 ? 1500 : 15_000,
  })
  const leads = useQuery(firstHour).data?.isOn
  const retry = useAct(
    (photos: string[]) => body(api.POST('/api/intakes/retry', { body: { photos } }), away),
    (out) => tell({ text: w.desk.retried(out.count) }),
  )
  if (!desk.data) return desk.error ? <p className="p-10">{desk.error.message}</p> : null
  const { figures: f, failed, nowhere, unreached, lacking, sent } = desk.data
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.stations.desk}
        lead={f.photos > 0 ? w.desk.holds(f.photos, f.albums, bytes(f.bytes)) : undefined}
      />
      <FirstHour />
      {f.photos === 0 ? (
        leads === false && (
          <Empty title={w.desk.empty} lead={w.desk.emptyLead}>
            <Button look="next" onClick={() => void go({ to: '/workroom/intake' })}>
              {w.desk.bring}
            </Button>
          </Empty>
        )
      ) : (
        <div className="mt-7 grid grid-cols-2 gap-x-12 max-xl:grid-cols-1">
          <div>
            <Part title={w.desk.running}>
              {f.unpacking > 0 && <p>{w.desk.unpacking(f.unpacking)}</p>}
              {f.waiting > 0 && (
                <p>
                  {w.desk.waiting(f.waiting)} {f.secondsLeft !== null && w.desk.left(w.time(f.secondsLeft))}
                </p>
              )}
              {f.larger > 0 && <p>{w.desk.larger(f.larger)}</p>}
              {f.waiting + f.larger + f.unpacking === 0 && <p className="text-quiet">{w.desk.nothingRuns}</p>}
            </Part>
            <Part title={w.desk.failed}>
              {failed.length === 0 ? (
                <p className="text-quiet">{w.desk.nothingFailed}</p>
              ) : (
                <>
                  <ul className="grid gap-2.5">
                    {failed.map((g) => (
                      <li key={g.sentence} className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4">
                        <span className="min-w-0">
                          <strong>{w.photos(g.count)}</strong> {g.sentence} {g.remedy}
                          <br />
                          <span className="block truncate text-small text-quiet">
                            {g.names.join(', ')}
                            {g.count > g.names.length && ` ${w.intake.andMore(g.count - g.names.length)}`}
                          </span>
                        </span>
                        <Button look="word" onClick={() => retry.mutate(g.photos)}>
                          {w.desk.retry}
                        </Button>
                      </li>
                    ))}
                  </ul>
                  {failed.length > 1 && (
                    <Button className="mt-4" onClick={() => retry.mutate(failed.flatMap((g) => g.photos))}>
                      {w.desk.retryAll}
                    </Button>
                  )}
                </>
              )}
            </Part>
            {sent.length > 0 && (
              <Part title={w.favourites.title}>
                <SentFavourites sent={sent} all={f.sent} />
              </Part>
            )}
            {f.orders > 0 && (
              <Waiting
                title={w.orders.title}
                says={w.orders.onDesk(f.orders)}
                to="/workroom/orders"
                verb={w.orders.look}
              />
            )}
            {f.contributed > 0 && (
              <Waiting
                title={w.contributions.title}
                says={w.contributions.onDesk(f.contributed)}
                to="/workroom/contributions"
                verb={w.contributions.look}
              />
            )}
            {f.commentsWaiting > 0 && (
              <Waiting
                title={w.comments.title}
                says={w.comments.onDesk(f.commentsWaiting)}
                to="/workroom/comments"
                verb={w.comments.read}
              />
            )}
            {f.repeats > 0 && (
              <Waiting
                title={w.desk.repeats}
                says={w.desk.repeatsLead(f.repeats)}
                to="/workroom/repeats"
                verb={w.desk.compare}
              />
            )}
            <Part title={w.desk.describe}>
              {f.photosWithoutTitle + f.photosWithoutAlt === 0 ? (
                <p className="text-quiet">{w.desk.described}</p>
              ) : (
                <ul className="grid gap-1">
                  {(
                    [
                      ['title', f.photosWithoutTitle],
                      ['alt', f.photosWithoutAlt],
                    ] as const
                  ).map(
                    ([missing, count]) =>
                      count > 0 && (
                        <li key={missing}>
                          <Link
                            to="/workroom/photos"
                            search={{ missing }}
                            className="underline decoration-strong-line decoration-1 underline-offset-4"
                          >
                            {w.photos(count)} {w.sheet.without[missing]}
                          </Link>
                        </li>
                      ),
                  )}
                </ul>
              )}
            </Part>
          </div>
          <div>
            <Part title={w.desk.nowhere}>
              <ShownNowhere albums={nowhere} />
            </Part>
            {lacking.length > 0 && (
              <Part title={w.desk.lacking}>
                <p className="mb-2 text-small text-quiet">{w.desk.lackingLead}</p>
                <ul>
                  {lacking.map((p) => (
                    <li key={p.id} className="border-b border-line py-1.5">
                      <Link
                        to="/workroom/pages/$page"
                        params={{ page: p.id }}
                        className="underline decoration-strong-line decoration-1 underline-offset-4"
                      >
                        {w.desk.lackingOn(p.things)} “{p.title}”
                      </Link>
                    </li>
                  ))}
                </ul>
              </Part>
            )}
            {unreached.length > 0 && (
              <Part title={w.desk.unreached}>
                <p className="mb-2 text-small text-quiet">{w.desk.unreachedLead}</p>
                <ul>
                  {unreached.map((p) => (
                    <li key={p.id} className="border-b border-line py-1.5">
                      <Link
                        to="/workroom/photos"
                        search={searchFrom(p.search)}
                        className="underline decoration-strong-line decoration-1 underline-offset-4"
                      >
                        {w.desk.unreachedOn(p.photos)} “{p.title}”
                      </Link>
                    </li>
                  ))}
                </ul>
              </Part>
            )}
          </div>
        </div>
      )}
    </div>
  )
}
