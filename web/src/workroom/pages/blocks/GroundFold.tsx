import type { Api } from '../../../api/client'
import { ColourWords } from '../../../kit/ColourWords'
import { NumberWord } from '../../../kit/NumberWord'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { useSession } from '../../shell/data'
import { type Block, make, usualGround } from './blocks'
import { Fold, Says } from './Parts'
import { PhotoChoice } from './PhotoChoice'

type Ground = Api['Ground']
const heights = ['content', 'third', 'half', 'window'] as const

/** What lies behind a block and its words: nothing, a colour, a photo beneath a veil, or what lies behind the block above. */
export function GroundFold({
  block,
  beside,
  onSay,
}: {
  block: Block
  beside: number
  onSay: (ground: Ground) => void
}) {
  const { ground } = block.frame
  const thickest = useSession().data?.bounds.thickestVeil ?? 90
  const say = (next: Partial<Ground>) => onSay({ ...ground, ...next })
  const kinds =
    beside > 1 ? (['none', 'colour', 'photo'] as const) : (['none', 'colour', 'photo', 'asAbove'] as const)
  const isOwn = ground.kind === 'colour' || ground.kind === 'photo'
  return (
    <Fold name={w.ground.label} changed={ground.kind !== 'none'} onUsual={() => onSay(usualGround)}>
      <Says>
        <span>{w.ground.behind}</span>
        <WordSelect
          label={w.ground.kind}
          value={ground.kind}
          choices={kinds.map((kind) => [kind, w.ground.kinds[kind]] as const)}
          onChoose={(kind) => say({ kind })}
        />
      </Says>
      {ground.kind === 'colour' && (
        <ColourWords label={w.ground.colour} colour={ground.colour} onSay={(colour) => say({ colour })} />
      )}
      {ground.kind === 'photo' && (
        <>
          <div className="flex items-end gap-3">
            <PhotoChoice
              photo={ground.photo}
              block={{ ...make('photo'), frame: block.frame }}
              beside={beside}
              onSay={(photo) => say({ photo })}
            />
          </div>
          <Says>
            <span>{w.ground.veiled}</span>
            <NumberWord
              label={w.ground.veil}
              value={ground.veil}
              least={0}
              most={thickest}
              onSay={(veil) => say({ veil })}
            />
            <span>{w.ground.percent}</span>
          </Says>
        </>
      )}
      {isOwn && (
        <>
          <Says>
            <span>{w.ground.words}</span>
            <WordSelect
              label={w.ground.wordsLabel}
              value={ground.words === null ? 'itself' : 'said'}
              choices={(['itself', 'said'] as const).map((k) => [k, w.ground.wordsIn[k]] as const)}
              onChoose={(how) => say({ words: how === 'itself' ? null : '#fafafa' })}
            />
          </Says>
          {ground.words !== null && (
            <ColourWords
              label={w.ground.wordsColour}
              colour={ground.words}
              onSay={(words) => say({ words })}
            />
          )}
          <Says>
            <span>{w.ground.high}</span>
            <WordSelect
              label={w.ground.height}
              value={ground.height}
              choices={heights.map((height) => [height, w.ground.heights[height]] as const)}
              onChoose={(height) => say({ height })}
            />
          </Says>
        </>
      )}
    </Fold>
  )
}
