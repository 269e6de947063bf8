import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { memo, startTransition, useEffect, useRef, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { rendition, sourceSet } from '../../kit/renditions'
import { w } from '../../words'
import { DecideLine } from '../sheet/DecideLine'
import { useUndecided } from '../sheet/Undecided'
import { type Decided, decidingKeys, useDecide } from '../sheet/useDecide'
import { type SheetQuery, sheetQuery } from '../sheet/useSheet'
import { hand, useHand } from '../shell/hand'
import { useKeys } from '../shell/keys'
import { PlateFacts } from './PlateFacts'
import { PlateWords } from './PlateWords'

/** As wide as the picture stands beside its words. */
const pictureSizes = '(min-width: 1024px) calc(100vw - 670px), 94vw'

const plateOf = (id: string) => ({
  queryKey: ['plate', id],
  queryFn: () => body(api.GET('/api/photos/{photo}', { params: { path: { photo: id } } }), w.errors.away),
})

/** One photo large, its words set beside it as in print. */
export function Plate({
  id,
  query,
  name,
  onGo,
  onBack,
}: {
  id: string
  query: SheetQuery
  name: string
  onGo: (id: string) => void
  onBack: (position: number) => void
}) {
  const held = useHand()
  const navigate = useNavigate()
  const plate = useQuery({
    ...plateOf(id),
    refetchInterval: (q) => (q.state.data?.state === 'waiting' ? 1500 : false),
  })
  const neighbours = {
    queryKey: ['neighbours', id, sheetQuery(query)],
    queryFn: () =>
      body(
        api.GET('/api/photos/{photo}/neighbours', {
          params: { path: { photo: id }, query: sheetQuery(query) },
        }),
        w.errors.away,
      ),
  }
  const beside = useQuery(neighbours).data
  const decide = useDecide()
  const left = useUndecided(query)
  const client = useQueryClient()
  const go = async (what: Decided) => {
    // Where one goes on is known before the narrowing lets go of what is decided; whoever is quicker than the answer waits for it.
    const next = await client.ensureQueryData(neighbours).catch(() => null)
    decide.mutate({ photo: id, ...what })
    if (next?.after) onGo(next.after)
  }
  const step = async (way: 'before' | 'after') => {
    const next = await client.ensureQueryData(neighbours).catch(() => null)
    const to = next?.[way]
    if (to) onGo(to)
  }
  const after = beside?.after
  // Held here, so that it stays decoded until it is shown.
  const ready = useRef<HTMLImageElement | null>(null)
  useEffect(() => {
    if (!after) return
    void client.prefetchQuery(plateOf(after)).then(() => {
      const next = client.getQueryData<Api['Plate']>(['plate', after])
      if (next?.state !== 'ready') return
      const picture = new Image()
      picture.sizes = pictureSizes
      picture.srcset = sourceSet(next.picture, next.renditions, next.width)
      picture.decode().catch(() => {})
      ready.current = picture
    })
  }, [client, after])
  const correct = () => void navigate({ to: '/workroom/correct', search: { photo: id } })
  const alike = () => void navigate({ to: '/workroom/repeats', search: { of: id } })
  const back = () => onBack((beside?.position ?? 1) - 1)
  useKeys({
    ArrowRight: () => void step('after'),
    ArrowLeft: () => void step('before'),
    ' ': () => hand.toggle(id),
    Escape: back,
    c: correct,
    q: alike,
    ...decidingKeys((what) => void go(what)),
  })
  return (
    <div className="flex min-h-full flex-col px-[30px] pt-7 pb-8">
      <div className="flex items-baseline gap-5 text-small text-quiet">
        <button type="button" className="hover:text-ink" onClick={back}>
          {name}
          {beside && ` · ${w.plate.of(beside.position, beside.total)}`}
        </button>
        {left !== undefined && <span className="tabular-nums">{w.decide.left(left)}</span>}
        <span className="ml-auto flex gap-4">
          <Button
            look="word"
            hint="Space"
            className={held.has(id) ? 'text-plum' : ''}
            onClick={() => hand.toggle(id)}
          >
            {held.has(id) ? w.plate.letGo : w.plate.take}
          </Button>
          <Button look="word" hint="C" disabled={plate.data?.state !== 'ready'} onClick={correct}>
            {w.correct.verb}
          </Button>
          <button
            type="button"
            className="hover:text-ink disabled:opacity-40"
            disabled={!beside?.before}
            onClick={() => beside?.before && onGo(beside.before)}
          >
            ← {w.plate.previous}
          </button>
          <button
            type="button"
            className="hover:text-ink disabled:opacity-40"
            disabled={!beside?.after}
            onClick={() => beside?.after && onGo(beside.after)}
          >
            {w.plate.next} →
          </button>
        </span>
      </div>
      {plate.error && !plate.data && (
        <div className="mt-10">
          <p className="mb-4">{plate.error.message}</p>
          <Button onClick={back}>{w.plate.back}</Button>
        </div>
      )}
      {plate.data && (
        <div className="mt-3 grid flex-1 grid-cols-[minmax(0,1fr)_330px] gap-[34px] max-xl:grid-cols-[minmax(0,1fr)_290px] max-lg:grid-cols-1">
          {/* The picture stays while one reads on beside it. */}
          <div className="self-start lg:sticky lg:top-7">
            <PlatePicture plate={plate.data} />
            <DecideLine plate={plate.data} onDecide={(what) => decide.mutate({ photo: id, ...what })} />
          </div>
          <Beside plate={plate.data} />
        </div>
      )}
    </div>
  )
}

/** What is said of a photo. Of the next photo it follows its picture, which is what one waits for. */
function Beside({ plate }: { plate: Api['Plate'] }) {
  const [drawn, draw] = useState(plate)
  useEffect(() => {
    const frame = requestAnimationFrame(() => setTimeout(() => startTransition(() => draw(plate))))
    return () => cancelAnimationFrame(frame)
  }, [plate])
  const shown = drawn.id === plate.id ? plate : drawn
  return <Said key={shown.id} plate={shown} />
}

const Said = memo(({ plate }: { plate: Api['Plate'] }) => (
  <article>
    <PlateWords plate={plate} />
    <PlateFacts plate={plate} />
  </article>
))

function PlatePicture({ plate }: { plate: Api['Plate'] }) {
  if (plate.state === 'waiting' && plate.preview)
    return (
      <img
        src={`/api/photos/${plate.id}/preview`}
        width={plate.width}
        height={plate.height}
        alt={plate.fileName}
        className="h-auto max-h-[calc(100dvh-132px)] w-full object-contain object-left-top"
      />
    )
  if (plate.state !== 'ready')
    return (
      <div className="grid min-h-[18rem] place-items-center self-start bg-well p-8 text-center text-quiet">
        {plate.state === 'failed' ? `${w.plate.failed} ${plate.failure ?? ''}` : w.plate.waiting}
      </div>
    )
  return (
    <div>
      <img
        key={plate.id}
        srcSet={sourceSet(plate.picture, plate.renditions, plate.width)}
        sizes={pictureSizes}
        width={plate.width}
        height={plate.height}
        alt={plate.alt || plate.title || plate.fileName}
        // What the sheet has shown already stands here until the larger rendition has come.
        style={{ backgroundImage: `url(${rendition(plate.picture, 480)})` }}
        className="h-auto max-h-[calc(100dvh-132px)] w-full bg-contain bg-left-top bg-no-repeat object-contain object-left-top"
      />
    </div>
  )
}
