import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { Dialog } from '../../../kit/Dialog'
import { rendition } from '../../../kit/renditions'
import { w } from '../../../words'
import { type BlockOf, noneAbsent } from './blocks'
import { Fold, Says } from './Parts'

type Absent = Api['Absent']
const devices = ['phone', 'tablet', 'desktop'] as const
type Device = (typeof devices)[number]

/** Which photos of a block do not stand there on a phone, a tablet or a desktop. */
export function AbsentFold({ block, onSay }: { block: BlockOf<'photos'>; onSay: (absent: Absent) => void }) {
  const [asked, setAsked] = useState<Device>()
  const { absent } = block
  return (
    <Fold
      name={w.absent.fold}
      changed={devices.some((d) => absent[d].length > 0)}
      onUsual={() => onSay(noneAbsent)}
    >
      {devices.map((device) => (
        <Says key={device}>
          <span>{w.absent.on[device]}</span>
          <Button look="word" className="font-semibold" onClick={() => setAsked(device)}>
            {w.absent.but(absent[device].length)}
          </Button>
        </Says>
      ))}
      <Dialog
        open={asked !== undefined}
        onClose={() => setAsked(undefined)}
        title={asked ? w.absent.which[asked] : ''}
        wide
      >
        {asked && (
          <Photos
            block={block}
            absent={absent[asked]}
            not={w.absent.not[asked]}
            onSay={(photos) => onSay({ ...absent, [asked]: photos })}
          />
        )}
      </Dialog>
    </Fold>
  )
}

/** The photos of the block as visitors find them; a press leaves one out, another one brings it back. */
function Photos({
  block,
  absent,
  not,
  onSay,
}: {
  block: BlockOf<'photos'>
  absent: readonly string[]
  not: string
  onSay: (absent: string[]) => void
}) {
  const [from, setFrom] = useState(0)
  const { data, isError } = useQuery({
    queryKey: ['of block', block.source, from],
    queryFn: () => body(api.POST('/api/pages/photos', { body: { block, from } }), w.errors.away),
    placeholderData: keepPreviousData,
  })
  if (isError) return <p className="mt-4">{w.errors.away}</p>
  if (!data) return null
  if (data.total === 0) return <p className="mt-4 text-quiet">{w.absent.empty}</p>
  return (
    <>
      <p className="mt-3 flex flex-wrap items-baseline gap-x-5 text-small">
        <span className="text-quiet">{w.absent.lead}</span>
        {absent.length > 0 && (
          <Button look="word" className="ml-auto" onClick={() => onSay([])}>
            {w.absent.all}
          </Button>
        )}
      </p>
      <ul className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(7.5rem,1fr))] gap-3 text-small">
        {data.photos.map((photo) => {
          const out = absent.includes(photo.id)
          return (
            <li key={photo.id}>
              <button
                type="button"
                aria-pressed={out}
                className={`block w-full p-1.5 text-left ${out ? 'bg-plum-wash outline-2 outline-plum' : 'hover:bg-well'}`}
                onClick={() => onSay(out ? absent.filter((id) => id !== photo.id) : [...absent, photo.id])}
              >
                <span className="flex h-20 items-end justify-center">
                  <img
                    src={rendition(photo.picture, 480)}
                    alt=""
                    loading="lazy"
                    className={`max-h-20 w-auto max-w-full ${out ? 'opacity-35' : ''}`}
                  />
                </span>
                <span className="mt-1 block truncate">{photo.name}</span>
                <span className="block text-quiet">{out ? not : '\u00a0'}</span>
              </button>
            </li>
          )
        })}
      </ul>
      {data.total > data.most && (
        <p className="mt-4 flex items-baseline gap-5 text-small">
          <Button look="word" disabled={from === 0} onClick={() => setFrom(from - data.most)}>
            {w.source.earlier}
          </Button>
          <span className="text-quiet tabular-nums">
            {w.source.span(from + 1, Math.min(data.total, from + data.most), data.total)}
          </span>
          <Button
            look="word"
            disabled={from + data.most >= data.total}
            onClick={() => setFrom(from + data.most)}
          >
            {w.source.further}
          </Button>
        </p>
      )}
    </>
  )
}
