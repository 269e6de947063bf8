import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { Dialog } from '../../../kit/Dialog'
import { w } from '../../../words'
import { type BlockOf, noneAbsent } from './blocks'
import { Fold, Says } from './Parts'
import { PhotoParts, PhotoTile, PhotoTiles } from './PhotoTiles'

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
      <PhotoTiles>
        {data.photos.map(({ id, picture, name }) => {
          const out = absent.includes(id)
          return (
            <PhotoTile
              key={id}
              picture={picture}
              name={name}
              on={out}
              faded={out}
              note={out ? not : '\u00a0'}
              onPress={() => onSay(out ? absent.filter((each) => each !== id) : [...absent, id])}
            />
          )
        })}
      </PhotoTiles>
      <PhotoParts from={from} step={data.most} total={data.total} onFrom={setFrom} />
    </>
  )
}
