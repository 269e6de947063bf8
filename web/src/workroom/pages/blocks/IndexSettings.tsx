import { Choice } from '../../../kit/Button'
import { NumberWord } from '../../../kit/NumberWord'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { AlbumChoice } from '../../shell/AlbumChoice'
import type { Block, BlockOf } from './blocks'
import { Says } from './Parts'
import { OneCategory } from './SourceSentence'

const kinds = ['category', 'albums', 'categories', 'pages', 'posts'] as const
const sorts = ['newest', 'oldest', 'title', 'hand'] as const

/** What an index lists, in which order, and what stands beneath each cover. */
export function IndexSettings({ block, onSay }: { block: BlockOf<'index'>; onSay: (block: Block) => void }) {
  return (
    <>
      <Says>
        <span>{w.index.lists}</span>
        <WordSelect
          label={w.index.of}
          value={block.of}
          choices={kinds.map((kind) => [kind, w.index.kinds[kind]] as const)}
          onChoose={(of) => onSay({ ...block, of })}
        />
        {block.of === 'albums' && (
          <AlbumChoice albums={block.albums} onSay={(albums) => onSay({ ...block, albums })} />
        )}
        {block.of === 'category' && (
          <>
            <OneCategory chosen={block.category} onChoose={(category) => onSay({ ...block, category })} />
            <WordSelect
              label={w.index.beneath}
              value={block.beneath ? 'beneath' : 'own'}
              choices={[
                ['beneath', w.index.beneaths.beneath],
                ['own', w.index.beneaths.own],
              ]}
              onChoose={(which) => onSay({ ...block, beneath: which === 'beneath' })}
            />
            <WordSelect
              label={w.index.sort}
              value={block.sort}
              choices={sorts.map((sort) => [sort, w.index.sorts[sort]] as const)}
              onChoose={(sort) => onSay({ ...block, sort })}
            />
          </>
        )}
      </Says>
      <Says>
        <NumberWord
          label={w.index.acrossLabel}
          value={block.across}
          least={1}
          most={6}
          onSay={(across) => onSay({ ...block, across })}
        />
        <span>{w.index.across},</span>
        <WordSelect
          label={w.source.howMany}
          value={block.most === null ? 'all' : 'most'}
          choices={[
            ['all', w.source.all],
            ['most', w.source.atMost],
          ]}
          onChoose={(many) => onSay({ ...block, most: many === 'all' ? null : 6 })}
        />
        {block.most !== null && (
          <NumberWord
            label={w.source.most}
            value={block.most}
            least={1}
            most={500}
            onSay={(most) => onSay({ ...block, most })}
          />
        )}
      </Says>
      <Says>
        <span>{w.index.shows}</span>
        {(['dates', 'counts', 'descriptions'] as const).map((what) => (
          <Choice key={what} on={block[what]} onClick={() => onSay({ ...block, [what]: !block[what] })}>
            {w.index[what]}
          </Choice>
        ))}
      </Says>
    </>
  )
}
