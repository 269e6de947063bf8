import type { Api } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { NumberWord } from '../../../kit/NumberWord'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { useSession } from '../../shell/data'
import { usualLayout } from './blocks'
import { Fold, Says } from './Parts'

type Layout = Api['BlockLayout']
type Measures = Api['Measures']
const kinds = ['rows', 'columns', 'grid'] as const

/** In which layout the photos of a block stand, how large and how far apart. */
export function LayoutSentence({ layout, onSay }: { layout: Layout; onSay: (layout: Layout) => void }) {
  const { kind } = layout
  const measures = layout[kind]
  const say = (next: Partial<Measures>) => onSay({ ...layout, [kind]: { ...measures, ...next } })
  return (
    <Says>
      <span>{w.layout.in}</span>
      <WordSelect
        label={w.layout.label}
        value={kind}
        choices={kinds.map((k) => [k, w.layout.kinds[k]] as const)}
        onChoose={(next) => onSay({ ...layout, kind: next })}
      />
      <span>{w.layout.about}</span>
      <Size label={w.layout.sizeLabel} size={measures.size} onSay={(size) => say({ size })} />
      <span>{w.layout.size[kind]},</span>
      <NumberWord
        label={w.layout.gapLabel}
        value={measures.gap}
        least={0}
        most={useSession().data?.bounds.largestGap ?? 80}
        onSay={(gap) => say({ gap })}
      />
      <span>{w.layout.gap}</span>
    </Says>
  )
}

/** Sizes on smaller screens, where they are not as usual. */
export function DeviceFold({ layout, onSay }: { layout: Layout; onSay: (layout: Layout) => void }) {
  const { kind } = layout
  const measures = layout[kind]
  const say = (next: Partial<Measures>) => onSay({ ...layout, [kind]: { ...measures, ...next } })
  return (
    <Fold
      name={w.layout.devices}
      changed={measures.tablet !== null || measures.phone !== null}
      onUsual={() => say({ tablet: null, phone: null })}
    >
      {(['tablet', 'phone'] as const).map((device) => {
        const size = measures[device]
        return (
          <Says key={device}>
            <span>{w.layout[device]}</span>
            {size === null ? (
              <>
                <span>{w.layout.asUsual}</span>
                <Button
                  look="word"
                  onClick={() => say({ [device]: Math.round(usualLayout[kind].size * 0.7) })}
                >
                  {w.layout.say}
                </Button>
              </>
            ) : (
              <>
                <Size label={w.layout[device]} size={size} onSay={(now) => say({ [device]: now })} />
                <span>{w.layout.size[kind]}</span>
              </>
            )}
          </Says>
        )
      })}
    </Fold>
  )
}

function Size({ label, size, onSay }: { label: string; size: number; onSay: (size: number) => void }) {
  const bounds = useSession().data?.bounds
  return (
    <NumberWord
      label={label}
      value={size}
      least={bounds?.smallestSize ?? 80}
      most={bounds?.largestSize ?? 800}
      onSay={onSay}
    />
  )
}
