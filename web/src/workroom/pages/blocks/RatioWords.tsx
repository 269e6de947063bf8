import type { Api } from '../../../api/client'
import { NumberWord } from '../../../kit/NumberWord'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'

type Ratio = Api['Ratio']
const usual = ['1:1', '3:2', '4:3', '16:9', '2:3', '3:4'] as const
type Choice = (typeof usual)[number] | 'none' | 'other'
const most = 100

/** A shape named in a sentence: one of the usual ones, or two numbers. */
export function RatioWords({
  label,
  ratio,
  none,
  onSay,
}: {
  label: string
  ratio: Ratio | null
  /** What is said where no shape is. */
  none: string
  onSay: (ratio: Ratio | null) => void
}) {
  const said = ratio && `${ratio.across}:${ratio.down}`
  const value: Choice = said === null ? 'none' : (usual.find((u) => u === said) ?? 'other')
  return (
    <>
      <WordSelect
        label={label}
        value={value}
        choices={(['none', ...usual, 'other'] as const).map(
          (c) => [c, c === 'none' ? none : w.layout.ratios[c]] as const,
        )}
        onChoose={(next) => {
          const [across, down] = next === 'other' ? [5, 4] : next.split(':').map(Number)
          onSay(next === 'none' || !across || !down ? null : { across, down })
        }}
      />
      {ratio && value === 'other' && (
        <>
          <NumberWord
            label={w.layout.ratioAcross}
            value={ratio.across}
            least={1}
            most={most}
            onSay={(across) => onSay({ ...ratio, across })}
          />
          <span>{w.layout.to}</span>
          <NumberWord
            label={w.layout.ratioDown}
            value={ratio.down}
            least={1}
            most={most}
            onSay={(down) => onSay({ ...ratio, down })}
          />
        </>
      )}
    </>
  )
}
