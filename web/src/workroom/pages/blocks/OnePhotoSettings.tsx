import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { AlbumChoice } from '../../shell/AlbumChoice'
import type { Block, BlockOf } from './blocks'
import { LinkSentence } from './LinkSentence'
import { LineField, Says } from './Parts'
import { PhotoChoice } from './PhotoChoice'

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
  const which = block.photo ? 'chosen' : block.byLot && block.press === 'open' ? 'lot' : 'cover'
  return (
    <>
      <div className="flex items-end gap-3">
        <PhotoChoice
          photo={block.photo}
          block={block}
          beside={beside}
          onSay={(photo) => onSay({ ...block, photo })}
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
      {block.album && (
        <Says>
          <span>{w.one.shows}</span>
          <WordSelect
            label={w.one.which}
            value={which}
            choices={[
              ...(block.photo ? [['chosen', w.one.whiches.chosen] as const] : []),
              ['cover', w.one.whiches.cover],
              ['lot', w.one.whiches.lot],
            ]}
            onChoose={(next) =>
              next !== 'chosen' &&
              onSay({
                ...block,
                photo: null,
                byLot: next === 'lot',
                press: next === 'lot' ? 'open' : block.press,
              })
            }
          />
        </Says>
      )}
      <LineField line={block.line} label={w.one.line} onSay={(line) => onSay({ ...block, line })} />
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
