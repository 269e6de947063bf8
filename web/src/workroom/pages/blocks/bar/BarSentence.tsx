import { WordSelect } from '../../../../kit/WordSelect'
import { w } from '../../../../words'
import { Says } from '../Parts'
import type { Bar } from './bar'

type Device = Bar['folded'][number]

/** The devices that are named together: the smaller ones first. */
const sets = ['', 'phone', 'phone tablet', 'phone tablet desktop'] as const
type DeviceSet = (typeof sets)[number]

const devicesOf = (set: DeviceSet) => (set === '' ? [] : (set.split(' ') as Device[]))

/** As one of them; what was set otherwise is read as the one that has its largest device. */
function setOf(devices: readonly Device[]): DeviceSet {
  if (devices.includes('desktop')) return 'phone tablet desktop'
  if (devices.includes('tablet')) return 'phone tablet'
  return devices.includes('phone') ? 'phone' : ''
}

/** How a filter bar stands, read as a sentence. */
export function BarSentence({ bar, onSay }: { bar: Bar; onSay: (bar: Bar) => void }) {
  return (
    <>
      <Says>
        <Either
          label={w.bar.on.label}
          value={!bar.off}
          yes={w.bar.on.shown}
          no={w.bar.on.off}
          onSay={(shown) => onSay({ ...bar, off: !shown })}
        />
        <Either
          label={w.bar.all.label}
          value={bar.all}
          yes={w.bar.all.first}
          no={w.bar.all.none}
          onSay={(all) => onSay({ ...bar, all })}
        />
        {bar.all && (
          <input
            value={bar.allWords}
            aria-label={w.bar.all.words}
            placeholder={w.bar.all.usual}
            maxLength={60}
            className="in-place w-auto! inline-block! font-semibold"
            onChange={(e) => onSay({ ...bar, allWords: e.target.value })}
          />
        )}
        <WordSelect
          label={w.bar.align.label}
          value={bar.align}
          choices={[
            ['left', w.bar.align.left],
            ['centre', w.bar.align.centre],
            ['right', w.bar.align.right],
          ]}
          onChoose={(align) => onSay({ ...bar, align })}
        />
        <Either
          label={w.bar.counts.label}
          value={bar.counts}
          yes={w.bar.counts.shown}
          no={w.bar.counts.none}
          onSay={(counts) => onSay({ ...bar, counts })}
        />
        <WordSelect
          label={w.bar.folded.label}
          value={setOf(bar.folded)}
          choices={sets.map((set) => [set, w.bar.folded[set]] as const)}
          onChoose={(set) => onSay({ ...bar, folded: devicesOf(set) })}
        />
      </Says>
      <Says>
        <WordSelect
          label={w.bar.still.label}
          value={setOf(bar.still)}
          choices={sets.map((set) => [set, w.bar.still[set]] as const)}
          onChoose={(set) => onSay({ ...bar, still: devicesOf(set) })}
        />
      </Says>
    </>
  )
}

/** Two words of which one holds. */
function Either({
  label,
  value,
  yes,
  no,
  onSay,
}: {
  label: string
  value: boolean
  yes: string
  no: string
  onSay: (value: boolean) => void
}) {
  return (
    <WordSelect
      label={label}
      value={value ? 'yes' : 'no'}
      choices={[
        ['yes', yes],
        ['no', no],
      ]}
      onChoose={(chosen) => onSay(chosen === 'yes')}
    />
  )
}
