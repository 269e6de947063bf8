import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Popover } from '../../kit/Popover'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useHand } from '../shell/hand'
import { seconds, useFirst } from './data'

/** So many of the hand are offered to choose a moment among. */
const offered = 200

/** What sets the second camera's clock by the first's: so many seconds later, of that camera only. */
type Step = { seconds: number; camera: string }

/** Two photos of one moment, each by a camera of its own: the clock of the second is set by that of the first. */
export function useInStep() {
  const { ids } = useHand()
  const [chosen, setChosen] = useState<{ right?: string; wrong?: string }>({})
  const right = useFirst(chosen.right ?? ids[0])
  const wrong = useFirst(chosen.wrong ?? ids[1])
  const same = right && wrong && (right.camera ?? '') === (wrong.camera ?? '')
  const step: Step | null =
    right?.taken && wrong?.taken && !same
      ? { seconds: seconds(right.taken) - seconds(wrong.taken), camera: wrong.camera ?? '' }
      : null
  const sentence = (
    <>
      {w.describing.momentOf}{' '}
      <Moment
        label={w.describing.rightMoment}
        photo={right}
        onPick={(id) => setChosen({ ...chosen, right: id })}
      />{' '}
      {w.describing.momentAnd}{' '}
      <Moment
        label={w.describing.wrongMoment}
        photo={wrong}
        onPick={(id) => setChosen({ ...chosen, wrong: id })}
      />{' '}
      {same ? w.describing.sameCamera : w.describing.inStep(right?.camera ?? '', wrong?.camera ?? '')}
    </>
  )
  return { step, sentence }
}

/** A photo of the hand, pressed to choose another. */
function Moment({
  label,
  photo,
  onPick,
}: {
  label: string
  photo: Api['Plate'] | undefined
  onPick: (id: string) => void
}) {
  const { ids } = useHand()
  const [open, setOpen] = useState(false)
  const shown = ids.slice(0, offered)
  const photos = useQuery({
    queryKey: ['these', shown],
    queryFn: async () =>
      (await body(api.POST('/api/photos/these', { body: { photos: [...shown] } }), w.errors.away)).photos,
    enabled: open,
  }).data
  return (
    <Popover
      wide
      open={open}
      onOpenChange={setOpen}
      label={label}
      trigger={
        <button
          type="button"
          aria-label={label}
          className="inline-flex items-center gap-2 border-b-2 border-strong-line align-middle hover:border-ink"
        >
          {photo && <img src={rendition(photo.picture, 480)} alt="" className="h-8 w-auto" />}
          <span>{photo?.taken?.slice(11, 19) ?? w.describing.noTime}</span>
        </button>
      }
    >
      <ul className="grid max-h-[22rem] grid-cols-4 gap-2 overflow-y-auto" aria-label={label}>
        {photos?.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              aria-current={p.id === photo?.id}
              aria-label={p.title || p.fileName}
              className="grid w-full justify-items-center gap-0.5 text-[0.6875rem] text-quiet tabular-nums hover:text-ink aria-[current=true]:text-plum"
              onClick={() => {
                onPick(p.id)
                setOpen(false)
              }}
            >
              <img src={rendition(p.picture, 480)} alt="" className="h-16 w-full object-contain" />
              {p.taken?.slice(11, 19) ?? w.describing.noTime}
            </button>
          </li>
        ))}
      </ul>
    </Popover>
  )
}
