import type { Api } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { usualLayout, usualMotion } from './blocks'
import { Across, hasSize, type Layout, type Measures, Size, wayOf } from './LayoutSentence'
import { Fold, Says } from './Parts'
import { RatioWords } from './RatioWords'

/** What is asked for seldom of the layout that is chosen, folded under what it is for. */
export function LayoutFolds({ layout, onSay }: { layout: Layout; onSay: (layout: Layout) => void }) {
  const { kind, along, slides } = layout
  return (
    <>
      {kind === 'grid' && <CellsFold cells={layout.cells} onSay={(cells) => onSay({ ...layout, cells })} />}
      {kind === 'strip' && (
        <MotionFold
          motion={along.motion}
          onSay={(motion) => onSay({ ...layout, along: { ...along, motion } })}
        />
      )}
      {kind === 'slides' && (
        <MotionFold
          motion={slides.motion}
          onSay={(motion) => onSay({ ...layout, slides: { ...slides, motion } })}
        />
      )}
      {kind !== 'slides' && hasSize(layout) && (
        <DeviceFold
          measures={layout[kind]}
          usual={usualLayout[kind].size}
          way={kind === 'strip' && along.height === 'tallest' ? 'wide' : wayOf[kind]}
          onSay={(measures) => onSay({ ...layout, [kind]: measures })}
        />
      )}
    </>
  )
}

/** Sizes, or numbers side by side, on smaller screens. */
function DeviceFold({
  measures,
  usual,
  way,
  onSay,
}: {
  measures: Measures
  usual: number
  way: 'high' | 'wide'
  onSay: (measures: Measures) => void
}) {
  const { across } = measures
  const devices = ['tablet', 'phone'] as const
  return (
    <Fold
      name={w.layout.devices}
      changed={!across && (measures.tablet !== null || measures.phone !== null)}
      onUsual={() => onSay({ ...measures, tablet: null, phone: null })}
    >
      {devices.map((device) => {
        const size = measures[device]
        const say = (to: number | null) => onSay({ ...measures, [device]: to })
        return (
          <Says key={device}>
            <span>{w.layout[device]}</span>
            {across ? (
              <Across
                label={w.layout[device]}
                number={across[device]}
                onSay={(n) => onSay({ ...measures, across: { ...across, [device]: n } })}
              />
            ) : size === null ? (
              <>
                <span>{w.layout.asUsual}</span>
                <Button look="word" onClick={() => say(Math.round(usual * 0.7))}>
                  {w.layout.say}
                </Button>
              </>
            ) : (
              <>
                <span>{w.layout.about}</span>
                <Size label={w.layout[device]} size={size} way={way} after="" onSay={say} />
              </>
            )}
          </Says>
        )
      })}
    </Fold>
  )
}

function CellsFold({ cells, onSay }: { cells: Api['GridCells']; onSay: (cells: Api['GridCells']) => void }) {
  return (
    <Fold
      name={w.layout.cells}
      changed={cells.shape !== null || cells.whole}
      onUsual={() => onSay(usualLayout.cells)}
    >
      <Says>
        <span>{w.layout.shape}</span>
        <RatioWords
          label={w.layout.shapeLabel}
          ratio={cells.shape}
          none={w.layout.ratios.none}
          onSay={(shape) => onSay({ ...cells, shape })}
        />
        <WordSelect
          label={w.layout.fit}
          value={cells.whole ? 'whole' : 'crops'}
          choices={(['crops', 'whole'] as const).map((fit) => [fit, w.layout.fits[fit]] as const)}
          onChoose={(fit) => onSay({ ...cells, whole: fit === 'whole' })}
        />
      </Says>
    </Fold>
  )
}

const paces = ['still', 'slow', 'medium', 'quick'] as const

/** How a strip or slides move. */
function MotionFold({ motion, onSay }: { motion: Api['Motion']; onSay: (motion: Api['Motion']) => void }) {
  const say = (next: Partial<Api['Motion']>) => onSay({ ...motion, ...next })
  return (
    <Fold
      name={w.layout.motion}
      changed={JSON.stringify(motion) !== JSON.stringify(usualMotion)}
      onUsual={() => onSay(usualMotion)}
    >
      <Says>
        <span>{w.layout.moves}</span>
        <WordSelect
          label={w.layout.pace}
          value={motion.pace}
          choices={paces.map((pace) => [pace, w.layout.paces[pace]] as const)}
          onChoose={(pace) => say({ pace })}
        />
      </Says>
      <Says>
        <span>{w.layout.after}</span>
        <WordSelect
          label={w.layout.after}
          value={motion.loops ? 'again' : 'ends'}
          choices={(['ends', 'again'] as const).map((l) => [l, w.layout.loops[l]] as const)}
          onChoose={(l) => say({ loops: l === 'again' })}
        />
        {motion.loops && (
          <WordSelect
            label={w.layout.order.label}
            value={motion.shuffles ? 'shuffled' : 'same'}
            choices={(['same', 'shuffled'] as const).map((o) => [o, w.layout.order[o]] as const)}
            onChoose={(o) => say({ shuffles: o === 'shuffled' })}
          />
        )}
      </Says>
      <Says>
        <WordSelect
          label={w.layout.arrows.label}
          value={motion.arrows ? 'with' : 'without'}
          choices={(['with', 'without'] as const).map((a) => [a, w.layout.arrows[a]] as const)}
          onChoose={(a) => say({ arrows: a === 'with' })}
        />
      </Says>
      {motion.pace !== 'still' && <p className="text-quiet">{w.layout.paceNote}</p>}
    </Fold>
  )
}
