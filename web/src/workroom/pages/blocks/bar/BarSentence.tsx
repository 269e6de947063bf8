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
        <WordSelect
          label={w.bar.on.label}
          value={bar.off ? 'off' : 'shown'}
          choices={[
            ['shown', w.bar.on.shown],
            ['off', w.bar.on.off],
          ]}
          onChoose={(on) => onSay({ ...bar, off: on === 'off' })}
        />
        <WordSelect
          label={w.bar.all.label}
          value={bar.all ? 'first' : 'none'}
          choices={[
            ['first', w.bar.all.first],
            ['none', w.bar.all.none],
          ]}
          onChoose={(all) => onSay({ ...bar, all: all === 'first' })}
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
        <WordSelect
          label={w.bar.counts.label}
          value={bar.counts ? 'shown' : 'none'}
          choices={[
            ['shown', w.bar.counts.shown],
            ['none', w.bar.counts.none],
          ]}
          onChoose={(counts) => onSay({ ...bar, counts: counts === 'shown' })}
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
