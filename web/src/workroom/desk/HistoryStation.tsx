import { useInfiniteQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useUndo } from '../shell/data'
import { clockTime, dayOf } from '../shell/format'
import { Empty, Heading } from '../shell/Station'

/** The latest acts of everybody, day by day, each to be taken back. */
export function HistoryStation() {
  const undo = useUndo()
  const list = useInfiniteQuery({
    queryKey: ['history', 'all'],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/acts', { params: { query: pageParam === undefined ? {} : { before: pageParam } } }),
        w.errors.away,
      ),
    getNextPageParam: (page) => page.before ?? undefined,
  })
  const acts = list.data?.pages.flatMap((p) => p.acts)
  if (!acts) return list.error ? <p className="p-10">{list.error.message}</p> : null
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.history.title} lead={acts.length > 0 ? w.history.lead : undefined} />
      {acts.length === 0 ? (
        <Empty title={w.history.none} lead={w.history.lead} />
      ) : (
        days(acts).map(({ day, lines }) => (
          <section key={day} className="mt-7 max-w-[60rem]" aria-label={day}>
            <h2 className="mb-1.5 text-lead">{day}</h2>
            <ol>
              {lines.map((a) => (
                <Line key={a.id} act={a} busy={undo.isPending} onUndo={() => undo.mutate(a.id)} />
              ))}
            </ol>
          </section>
        ))
      )}
      {list.hasNextPage && (
        <Button className="mt-6" onClick={() => void list.fetchNextPage()}>
          {w.history.more}
        </Button>
      )}
    </div>
  )
}

/** Acts under the day they were done on. */
function days(acts: readonly Api['ActLine'][]) {
  const all: { day: string; lines: Api['ActLine'][] }[] = []
  for (const act of acts) {
    const day = dayOf(act.made)
    const last = all.at(-1)
    if (last?.day === day) last.lines.push(act)
    else all.push({ day, lines: [act] })
  }
  return all
}

function Line({ act, busy, onUndo }: { act: Api['ActLine']; busy: boolean; onUndo: () => void }) {
  return (
    <li className="grid min-h-[58px] grid-cols-[4.5rem_3.25rem_minmax(0,1fr)_auto] items-center gap-x-4 border-t border-line py-1.5">
      <span className="h-11 w-[4.5rem]">
        {act.picture && (
          <img
            src={rendition(act.picture.picture, 480)}
            width={act.picture.width}
            height={act.picture.height}
            alt=""
            loading="lazy"
            className={`h-11 w-full object-contain object-left ${act.takenBack ? 'opacity-40' : ''}`}
          />
        )}
      </span>
      <span className="text-small text-quiet tabular-nums">{clockTime(act.made)}</span>
      <span className="min-w-0">
        <span className={`block ${act.takenBack ? 'text-quiet line-through' : ''}`}>{act.sentence}</span>
        <span className="block text-small text-quiet">
          {act.who}
          {act.photos > 0 && ` · ${w.photos(act.photos)}`}
        </span>
      </span>
      <span className="flex gap-5 text-small">
        {act.intake && (
          <Link
            to="/workroom/intake/$intake"
            params={{ intake: act.intake }}
            className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
          >
            {w.history.toIntake}
          </Link>
        )}
        {act.takenBack ? (
          <span className="text-quiet">{w.history.takenBack}</span>
        ) : (
          act.canUndo && (
            <Button look="word" aria-label={w.history.undoOf(act.sentence)} disabled={busy} onClick={onUndo}>
              {w.history.undo}
            </Button>
          )
        )}
      </span>
    </li>
  )
}
