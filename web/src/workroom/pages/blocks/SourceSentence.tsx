import { useState } from 'react'
import type { Api } from '../../../api/client'
import { Button, Choice } from '../../../kit/Button'
import { ChooserPopover } from '../../../kit/ChooserPopover'
import { NumberWord } from '../../../kit/NumberWord'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { AlbumChoice } from '../../shell/AlbumChoice'
import { useCategories, useTags } from '../../shell/data'
import { CategoryChoice } from '../../standing/CategoryChoice'
import { Says } from './Parts'
import { PhotoPicker } from './PhotoPicker'

type Source = Api['PhotosSource']
const kinds = ['albums', 'picked', 'category', 'tag', 'newest', 'highestRated', 'mostViewed'] as const
const sorts = ['taken', 'arrived', 'name', 'title', 'rating', 'views'] as const

/** Where the photos of a block come from, in which order and how many. */
export function SourceSentence({
  source,
  block,
  beside,
  onSay,
}: {
  source: Source
  /** Whose place the photos fill: those too small for it are told while one picks. */
  block: Api['Block']
  beside: number
  onSay: (next: Partial<Source>) => void
}) {
  const gathers = source.kind !== 'albums' && source.kind !== 'picked'
  return (
    <>
      <Says>
        <span>{w.source.from}</span>
        <WordSelect
          label={w.source.which}
          value={source.kind}
          choices={kinds.map((kind) => [kind, w.source.kinds[kind]] as const)}
          onChoose={(kind) => onSay({ kind })}
        />
        {source.kind === 'albums' && (
          <AlbumChoice albums={source.albums} onSay={(albums) => onSay({ albums })} />
        )}
        {source.kind === 'picked' && (
          <>
            <span>{w.source.picked(source.photos.length)}</span>
            <PhotoPicker
              chosen={source.photos}
              block={block}
              beside={beside}
              onSay={(photos) => onSay({ photos })}
            />
          </>
        )}
        {source.kind === 'category' && (
          <OneCategory chosen={source.category} onChoose={(category) => onSay({ category })} />
        )}
        {source.kind === 'tag' && <OneTag chosen={source.tag} onChoose={(tag) => onSay({ tag })} />}
      </Says>
      <Says>
        <span>{w.source.in}</span>
        <WordSelect
          label={w.source.order}
          value={source.byLot ? 'byLot' : (source.sort ?? 'itself')}
          choices={[
            ['itself', gathers ? w.source.orders.gathered : w.source.orders.itself] as const,
            ...sorts.map((sort) => [sort, w.source.orders[sort]] as const),
            ['byLot', w.source.orders.byLot] as const,
          ]}
          onChoose={(sort) =>
            onSay(
              sort === 'byLot' ? { byLot: true } : { byLot: false, sort: sort === 'itself' ? null : sort },
            )
          }
        />
        <WordSelect
          label={w.source.howMany}
          value={source.most === null ? 'all' : 'most'}
          choices={[
            ['all', w.source.all],
            ['most', w.source.atMost],
          ]}
          onChoose={(many) => onSay({ most: many === 'all' ? null : 24 })}
        />
        {source.most !== null && (
          <NumberWord
            label={w.source.most}
            value={source.most}
            least={1}
            most={10_000}
            onSay={(most) => onSay({ most })}
          />
        )}
        {!source.byLot && (
          <Choice on={source.reversed} onClick={() => onSay({ reversed: !source.reversed })}>
            {source.reversed ? w.source.reversed : w.source.reverse}
          </Choice>
        )}
      </Says>
      {source.byLot && (
        <p className="text-quiet">{source.most === null ? w.source.lot : w.source.lotOf(source.most)}</p>
      )}
      {gathers && <p className="text-quiet">{w.source.gathers}</p>}
    </>
  )
}

/** One category, named in a sentence. */
export function OneCategory({ chosen, onChoose }: { chosen: string | null; onChoose: (id: string) => void }) {
  const known = useCategories().data ?? []
  const name = known.find((c) => c.id === chosen)?.name
  return (
    <CategoryChoice
      trigger={
        <Button look="word" className={name ? 'font-semibold' : ''}>
          {name ?? (chosen ? w.source.gone : w.source.category)}
        </Button>
      }
      without={chosen ? [chosen] : []}
      onChoose={(c) => onChoose(c.id)}
    />
  )
}

/** One tag, named in a sentence. */
function OneTag({ chosen, onChoose }: { chosen: string | null; onChoose: (id: string) => void }) {
  const [typed, setTyped] = useState('')
  const known = useTags(typed, chosen ? [chosen] : []).data ?? []
  const name = known.find((t) => t.id === chosen)?.name
  return (
    <ChooserPopover
      label={w.bar.whichTag}
      trigger={
        <Button look="word" className={name ? 'font-semibold' : ''}>
          {name ?? (chosen ? w.source.gone : w.source.tag)}
        </Button>
      }
      onType={setTyped}
      choices={known
        .filter((t) => t.id !== chosen)
        .map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
      onChoose={(t) => onChoose(t.key)}
    />
  )
}
