import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { isNarrowed, narrowingOf } from '../narrowings/narrowing'
import { aside, Sentence } from '../narrowings/Sentence'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { tell, tellDone } from '../shell/news'
import { Empty, Heading } from '../shell/Station'

type Thing = Api['BinnedThing']

/** What was thrown away, to be taken back or removed for good. */
export function BinStation() {
  const [asking, setAsking] = useState(false)
  const search = narrowingOf(useSearch({ from: '/workroom/bin' }))
  const go = useNavigate({ from: '/workroom/bin' })
  const narrowed = isNarrowed(search)
  const list = useInfiniteQuery({
    queryKey: ['bin', search],
    initialPageParam: {} as { until?: string; after?: string },
    queryFn: ({ pageParam }) =>
      body(api.GET('/api/bin', { params: { query: { ...search, ...pageParam } } }), w.errors.away),
    placeholderData: keepPreviousData,
    getNextPageParam: (page) => (page.after ? { until: page.until, after: page.after } : undefined),
  })
  const first = list.data?.pages[0]
  const things = list.data?.pages.flatMap((p) => p.things)
  const needed = new Set(list.data?.pages.flatMap((p) => p.needed))
  const restore = useAct(
    (back: readonly Thing[]) =>
      body(
        api.POST('/api/bin/restore', { body: { things: back.map(({ kind, id }) => ({ kind, id })) } }),
        w.errors.away,
      ),
    (done, back) => tellDone(w.bin.restored(back.length), done),
  )
  const empty = useAct(
    (until: string) => body(api.POST('/api/bin/empty', { body: { until } }), w.errors.away),
    (out) => {
      setAsking(false)
      tell({ text: w.bin.emptied(out.count, out.needed) })
    },
  )
  if (!first || !things) return null
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.bin.title}
        lead={things.length > 0 ? w.bin.lead : undefined}
        right={
          things.length > 0 && (
            <span className="flex items-center gap-5">
              {things.length > 1 && (
                <Button look="word" onClick={() => restore.mutate(things)}>
                  {w.bin.restoreAll(things.length)}
                </Button>
              )}
              {/* Emptied is the whole bin: that is not to be taken for what is found in it. */}
              {!narrowed && <Button onClick={() => setAsking(true)}>{w.bin.empty}</Button>}
            </span>
          )
        }
      />
      {(narrowed || things.length > 0) && (
        <Sentence
          search={search}
          total={first.total}
          inBin
          onChange={(next) => void go({ search: (s) => ({ ...s, ...next }), replace: true })}
        >
          {narrowed && (
            <Link to="/workroom/photos" search={search} className={`ml-4 ${aside}`}>
              {w.narrowing.outside}
            </Link>
          )}
        </Sentence>
      )}
      {things.length === 0 && narrowed ? (
        <Empty title={w.bin.noneSuch}>
          <Button onClick={() => void go({ search: {} })}>{w.bin.widen}</Button>
        </Empty>
      ) : things.length === 0 ? (
        <Empty title={w.bin.none} lead={w.bin.lead} />
      ) : (
        <ul className="mt-7 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-x-4 gap-y-6">
          {things.map((t) => (
            <Binned
              key={`${t.kind}${t.id}`}
              thing={t}
              isNeeded={needed.has(t.id)}
              onRestore={() => restore.mutate([t])}
            />
          ))}
        </ul>
      )}
      {list.hasNextPage && (
        <Button className="mt-6" onClick={() => void list.fetchNextPage()}>
          {w.bin.more}
        </Button>
      )}
      <Dialog open={asking} onClose={() => setAsking(false)} title={w.bin.emptyAsk(first.total)}>
        <p className="mt-3">{w.bin.emptyText}</p>
        {needed.size > 0 && <p className="mt-3">{w.bin.neededText}</p>}
        <div className="mt-5 flex gap-4">
          <Button look="next" onClick={() => empty.mutate(first.until)}>
            {w.bin.emptyYes}
          </Button>
          <Button onClick={() => setAsking(false)}>{w.bin.keep}</Button>
        </div>
      </Dialog>
    </div>
  )
}

/** One thing in the bin: a picture of it or of what it held, its name, what it is. */
function Binned({
  thing: t,
  isNeeded,
  onRestore,
}: {
  thing: Thing
  isNeeded: boolean
  onRestore: () => void
}) {
  return (
    <li className="[contain-intrinsic-size:auto_205px] pb-1 [content-visibility:auto]">
      <div className="flex h-[110px] items-end">
        {t.picture ? (
          <img
            src={rendition(t.picture, 480)}
            alt=""
            width={t.width}
            height={t.height}
            loading="lazy"
            className="max-h-full w-auto max-w-full object-contain"
          />
        ) : (
          <span className="flex h-full w-full items-end border border-dashed border-line p-2.5 font-display text-lead text-quiet">
            {t.kind}
          </span>
        )}
      </div>
      <div className="mt-1.5 border-t border-line pt-1 text-small">
        <span className="block truncate font-semibold" title={t.name}>
          {t.name}
        </span>
        {t.kind !== 'photo' && (
          <span className="block truncate">{w.bin.what(t.kind, t.photos, t.along)}</span>
        )}
        {isNeeded && <span className="block truncate font-semibold">{w.bin.needed}</span>}
        <span className="block truncate text-quiet">{moment(t.binned)}</span>
        <span className="block truncate text-quiet">{t.binnedBy}</span>
        <Button look="word" aria-label={`${w.bin.restore}: ${t.name}`} onClick={onRestore}>
          {w.bin.restore}
        </Button>
      </div>
    </li>
  )
}
