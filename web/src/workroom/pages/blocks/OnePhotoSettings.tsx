import { useQuery } from '@tanstack/react-query'
import { api, body } from '../../../api/client'
import { rendition } from '../../../kit/renditions'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { AlbumChoice } from './AlbumChoice'
import type { Block, BlockOf } from './blocks'
import { LinkSentence } from './LinkSentence'
import { Says } from './Parts'
import { PhotoPicker } from './PhotoPicker'

/** One photo: which, what it stands for, what is said beneath it and what a press does. */
export function OnePhotoSettings({
  block,
  beside,
  onSay,
}: {
  block: BlockOf<'photo'>
  beside: number
  onSay: (block: Block) => void
}) {
  const chosen = useQuery({
    queryKey: ['photo', block.photo],
    queryFn: () =>
      body(api.GET('/api/photos/{photo}', { params: { path: { photo: block.photo ?? '' } } }), w.errors.away),
    enabled: block.photo !== null,
  }).data
  return (
    <>
      <div className="flex items-end gap-3">
        {chosen && <img src={rendition(chosen.picture, 480)} alt="" className="max-h-14 w-auto max-w-24" />}
        <PhotoPicker
          single
          chosen={block.photo ? [block.photo] : []}
          block={block}
          beside={beside}
          onSay={([photo]) => onSay({ ...block, photo: photo ?? null })}
        />
      </div>
      <Says>
        <span>{w.one.standsFor}</span>
        {block.album === null && <span>{w.one.itself}</span>}
        <AlbumChoice
          albums={block.album ? [block.album] : []}
          most={1}
          onSay={([album]) => onSay({ ...block, album: album ?? null })}
        />
      </Says>
      <input
        value={block.line}
        aria-label={w.one.line}
        placeholder={w.one.line}
        maxLength={300}
        className="in-place"
        onChange={(e) => onSay({ ...block, line: e.target.value })}
      />
      <Says>
        <span>{w.one.pressed}</span>
        <WordSelect
          label={w.one.press}
          value={block.press}
          choices={[
            ['open', block.album ? w.one.presses.openAlbum : w.one.presses.open],
            ['link', w.one.presses.link],
            ['nothing', w.one.presses.nothing],
          ]}
          onChoose={(press) => onSay({ ...block, press })}
        />
        {block.press === 'link' && (
          <LinkSentence link={block.link} onSay={(link) => onSay({ ...block, link })} />
        )}
      </Says>
    </>
  )
}
