import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useRouter, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { bytes, takenAt } from '../shell/format'
import { useKeys } from '../shell/keys'
import { tellDone } from '../shell/news'
import { Empty, Heading } from '../shell/Station'
import { SideBySide } from './SideBySide'

const key = ['repeats']

/** Groups of photos that look nearly the same, one group at a time, to keep some and leave out the rest. */
export function RepeatsStation() {
  const { of } = useSearch({ from: '/workroom/repeats' })
  return of ? <OneGroup of={of} /> : <AllGroups />
}

function AllGroups() {
  const [at, setAt] = useState(0)
  const groups = useQuery({
    queryKey: key,
    queryFn: async () => (await body(api.GET('/api/repeats'), w.errors.away)).groups,
  }).data
  if (!groups) return null
  const here = Math.min(at, groups.length - 1)
  const group = groups[here]
  return (
    <div className="flex min-h-full flex-col px-[30px] pt-7 pb-8">
      <Heading
        title={w.repeats.title}
        lead={w.repeats.lead}
        right={
          groups.length > 1 && (
            <span className="flex gap-5 text-small">
              <Button look="word" disabled={here === 0} onClick={() => setAt(here - 1)}>
                ↑ {w.repeats.previous}
              </Button>
              <Button look="word" disabled={here === groups.length - 1} onClick={() => setAt(here + 1)}>
                ↓ {w.repeats.next}
              </Button>
            </span>
          )
        }
      />
      {group ? (
        <Group
          key={group.photos.map((p) => p.id).join()}
          group={group}
          says={w.repeats.group(here + 1, groups.length)}
          onStep={(by) => setAt(Math.max(0, Math.min(groups.length - 1, here + by)))}
        />
      ) : (
        <Empty title={w.repeats.none} lead={w.repeats.noneLead} />
      )}
    </div>
  )
}

/** What looks nearly the same as one photo, whatever was decided about it before; then back to where one was. */
function OneGroup({ of }: { of: string }) {
  const { history } = useRouter()
  const back = () => history.back()
  const groups = useQuery({
    queryKey: [...key, of],
    queryFn: async () =>
      (await body(api.GET('/api/repeats/{photo}', { params: { path: { photo: of } } }), w.errors.away))
        .groups,
    refetchInterval: (q) =>
      q.state.data?.some((g) => g.photos.some((p) => p.sharpness === null)) ? 2000 : false,
  }).data
  useKeys({ Escape: back })
  if (!groups) return null
  const group = groups[0]
  return (
    <div className="flex min-h-full flex-col px-[30px] pt-7 pb-8">
      <Heading
        title={w.repeats.title}
        lead={group ? w.repeats.ofLead : ''}
        right={
          <Button look="word" className="text-small" hint="Esc" onClick={back}>
            ← {w.repeats.back}
          </Button>
        }
      />
      {group ? (
        <Group
          key={group.photos.map((p) => p.id).join()}
          group={group}
          says={w.repeats.ofOne}
          start={group.photos.findIndex((p) => p.id === of)}
          onDecided={back}
        />
      ) : (
        <Empty title={w.repeats.noneOf} lead={w.repeats.noneOfLead} />
      )}
    </div>
  )
}

/** The photo that is proposed to be kept: the sharpest, or the largest when figures do not differ. Only a place to begin. */
function best(photos: readonly Api['RepeatPhoto'][]) {
  const pixels = (p: Api['RepeatPhoto']) => p.width * p.height
  const largest = photos.reduce((a, b) => (pixels(b) > pixels(a) ? b : a))
  const sharpest = photos.reduce((a, b) => ((b.sharpness ?? 0) > (a.sharpness ?? 0) ? b : a))
  return { largest, sharpest, differ: photos.some((p) => pixels(p) !== pixels(largest)) }
}

function Group({
  group,
  says,
  start = 0,
  onStep,
  onDecided,
}: {
  group: Api['RepeatGroup']
  says: string
  /** The photo to begin at. */
  start?: number
  onStep?: (by: number) => void
  onDecided?: () => void
}) {
  const client = useQueryClient()
  const { photos } = group
  const { largest, sharpest, differ } = best(photos)
  // Whose figure is not known yet may be the sharpest.
  const judged = photos.every((p) => p.sharpness !== null)
  const kept = photos.filter((p) => p.decision === 'keep').map((p) => p.id)
  const [keep, setKeep] = useState<readonly string[]>(
    kept.length > 0 ? kept : [(differ ? largest : sharpest).id],
  )
  const [focus, setFocus] = useState(start)
  const read = () => client.invalidateQueries({ queryKey: key })
  const decide = useAct(
    (kept: readonly string[]) =>
      body(
        api.POST('/api/repeats/decision', { body: { group: photos.map((p) => p.id), keep: [...kept] } }),
        w.errors.away,
      ),
    (done, kept) => {
      void read()
      tellDone(w.repeats.decided(kept.length, photos.length - kept.length), done)
      onDecided?.()
    },
  )
  const all = photos.map((p) => p.id)
  function toggle(id: string) {
    setKeep(keep.includes(id) ? keep.filter((k) => k !== id) : [...keep, id])
  }
  useKeys({
    ArrowRight: () => setFocus(Math.min(photos.length - 1, focus + 1)),
    ArrowLeft: () => setFocus(Math.max(0, focus - 1)),
    ...(onStep && { ArrowDown: () => onStep(1), ArrowUp: () => onStep(-1) }),
    ...(judged && { q: () => setKeep([sharpest.id]) }),
    ' ': () => photos[focus] && toggle(photos[focus].id),
    Enter: () => keep.length > 0 && decide.mutate(keep),
    k: () => decide.mutate(all),
  })
  return (
    <>
      <div className="mt-6 flex flex-wrap items-center gap-x-5 gap-y-2 border-y border-line py-2">
        <span className="font-display text-[1.0625rem] font-semibold">{says}</span>
        <span className="text-small text-quiet">
          {group.burst ? w.repeats.burst(photos.length) : w.repeats.same(photos.length)}
        </span>
        <span className="ml-auto flex items-center gap-5">
          {judged && (
            <Button look="word" hint="Q" onClick={() => setKeep([sharpest.id])}>
              {w.repeats.takeSharpest}
            </Button>
          )}
          <Button look="word" hint="K" onClick={() => decide.mutate(all)}>
            {w.repeats.keepAll}
          </Button>
          <Button
            look="next"
            disabled={keep.length === 0 || decide.isPending}
            onClick={() => decide.mutate(keep)}
          >
            {w.repeats.decide(keep.length, photos.length - keep.length)}
          </Button>
        </span>
      </div>
      <SideBySide
        photos={photos}
        focus={focus}
        onFocus={setFocus}
        marked={(p) => keep.includes(p.id)}
        beneath={(p, i) => (
          <div className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-3 text-quiet tabular-nums">
            <span>
              {p.width} × {p.height}, {bytes(p.bytes)}
              {differ && largest.id === p.id && <strong className="text-ink">, {w.repeats.largest}</strong>}
            </span>
            <Button
              look="word"
              className="min-h-6 text-ink"
              aria-pressed={keep.includes(p.id)}
              hint={focus === i ? 'Space' : ''}
              onClick={() => toggle(p.id)}
            >
              {keep.includes(p.id) ? w.repeats.keeping : w.repeats.leaving}
            </Button>
            <span className="col-span-2">
              {[
                p.taken && takenAt(p.taken),
                p.sharpness !== null && w.repeats.sharpness(p.sharpness.toFixed(1)),
              ]
                .filter(Boolean)
                .join(', ')}
              {sharpest.id === p.id && p.sharpness !== null && (
                <strong className="text-ink">, {w.repeats.sharpest}</strong>
              )}
            </span>
          </div>
        )}
      />
    </>
  )
}
