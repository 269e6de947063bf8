import type { Api } from '../../../api/client'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { Fold, Says } from './Parts'

const widths = ['quarter', 'half', 'threeQuarters', 'full', 'window'] as const
const aligns = ['left', 'centre', 'right'] as const

/** How wide a block is and where it stands; side by side with others it shares the width evenly. */
export function FrameFold({
  frame,
  beside,
  onSay,
}: {
  frame: Api['BlockFrame']
  beside: boolean
  onSay: (frame: Api['BlockFrame']) => void
}) {
  return (
    <Fold
      name={w.frame.label}
      changed={frame.width !== 'full' || frame.align !== 'left'}
      onUsual={() => onSay({ ...frame, width: 'full', align: 'left' })}
    >
      <Says>
        {!beside && (
          <>
            <span>{w.frame.takes}</span>
            <WordSelect
              label={w.frame.width}
              value={frame.width}
              choices={widths.map((width) => [width, w.frame.widths[width]] as const)}
              onChoose={(width) => onSay({ ...frame, width })}
            />
          </>
        )}
        <span>{w.frame.stands}</span>
        <WordSelect
          label={w.frame.align}
          value={frame.align}
          choices={aligns.map((align) => [align, w.frame.aligns[align]] as const)}
          onChoose={(align) => onSay({ ...frame, align })}
        />
      </Says>
    </Fold>
  )
}
