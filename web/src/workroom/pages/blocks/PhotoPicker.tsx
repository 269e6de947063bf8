import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { type Api, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { ChooserPopover } from '../../../kit/ChooserPopover'
import { Dialog } from '../../../kit/Dialog'
import { w } from '../../../words'
import { BringIn } from '../../intake/BringIn'
import { windowOf } from '../../sheet/useSheet'
import { useAlbums } from '../../shell/data'
import { useHand } from '../../shell/hand'
import { PhotoParts, PhotoTile, PhotoTiles } from './PhotoTiles'

/**
 * Photos picked for a place on a page, of all there are, narrowed by words or an album, or those in hand. It says which are too
 * small for the place while one picks.
 */
export function PhotoPicker({
  chosen,
  block,
  beside,
  single = false,
  words,
  onSay,
}: {
  chosen: readonly string[]
  block: Api['Block']
  /** How many blocks stand side by side where it stands. */
  beside: number
  /** One photo is wanted: the next takes the place of the one before. */
  single?: boolean
  /** The verb that opens it, where it is another one. */
  words?: string
  onSay: (photos: string[]) => void
}) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button look="word" onClick={() => setOpen(true)}>
        {words ?? (single ? (chosen.length > 0 ? w.one.another : w.one.choose) : w.source.pick)}
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} title={w.source.whichPhotos} wide>
        <Sheet
          chosen={chosen}
          block={block}
          beside={beside}
          single={single}
          onSay={(photos) => {
            onSay(photos)
            if (single) setOpen(false)
          }}
        />
      </Dialog>
    </>
  )
}

function Sheet({
  chosen,
  block,
  beside,
  single,
  onSay,
}: {
  chosen: readonly string[]
  block: Api['Block']
  beside: number
  single: boolean
  onSay: (photos: string[]) => void
}) {
  const [words, setWords] = useState('')
  const [album, setAlbum] = useState<string>()
  /** Only what was brought in from here. */
  const [intake, setIntake] = useState<string>()
  const [window, setWindow] = useState(0)
  const albums = useAlbums().data ?? []
  const hand = useHand()
  const settled = useDeferredValue(words.trim())
  const query = { ...(settled && { q: settled }), ...(album && { album }), ...(intake && { intake }) }
  const { data } = useQuery({ ...windowOf(query, window), placeholderData: keepPreviousData })
  const photos = data?.photos ?? []
  const step = data?.step ?? 120
  const ids = photos.map((p) => p.id)
  const small = useQuery({
    queryKey: ['small', beside, block.kind, block.frame, 'layout' in block && block.layout, ids],
    queryFn: () =>
      body(api.POST('/api/pages/small', { body: { block, beside, photos: ids } }), w.errors.away),
    enabled: ids.length > 0,
    staleTime: 60_000,
  }).data?.photos
  function press(id: string) {
    if (single) onSay([id])
    else onSay(chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id])
  }
  return (
    <>
      <div className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-2 text-small">
        <input
          className="w-56 border-b border-strong-line bg-transparent pb-0.5 outline-none focus:border-plum"
          aria-label={w.source.search}
          placeholder={w.source.search}
          value={words}
          onChange={(e) => {
            setWords(e.target.value)
            setWindow(0)
          }}
        />
        <ChooserPopover
          label={w.source.whichAlbum}
          trigger={
            <Button look="word">{albums.find((a) => a.id === album)?.workingName ?? w.source.inAlbum}</Button>
          }
          choices={[
            { key: '', name: w.source.inAlbum },
            ...albums.map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) })),
          ]}
          onChoose={(choice) => {
            setAlbum(choice.key || undefined)
            setWindow(0)
          }}
        />
        {!single && hand.count > 0 && hand.ids.length === hand.count && (
          <Button look="word" onClick={() => onSay([...new Set([...chosen, ...hand.ids])])}>
            {w.source.fromHand(hand.count)}
          </Button>
        )}
        <BringIn
          words={w.source.bringIn}
          onIntake={(made) => {
            setIntake(made)
            setAlbum(undefined)
            setWords('')
            setWindow(0)
          }}
        />
        {intake && (
          <Button look="word" onClick={() => setIntake(undefined)}>
            {w.source.notOnlyBrought}
          </Button>
        )}
        {!single && (
          <span className="ml-auto text-quiet">
            {w.source.picked(chosen.length)}. {w.source.pickLead}
          </span>
        )}
      </div>
      <PhotoTiles>
        {photos.map((photo) => {
          const lacks = small?.find((s) => s.photo === photo.id)
          return (
            <PhotoTile
              key={photo.id}
              picture={photo.picture}
              name={photo.title || photo.fileName}
              on={chosen.includes(photo.id)}
              note={
                lacks && (lacks.blurred ? w.source.small(lacks.device) : w.source.smallSharp(lacks.device))
              }
              onPress={() => press(photo.id)}
            />
          )
        })}
      </PhotoTiles>
      {data && (
        <PhotoParts
          from={window * step}
          step={step}
          total={data.total}
          onFrom={(from) => setWindow(from / step)}
        />
      )}
    </>
  )
}
