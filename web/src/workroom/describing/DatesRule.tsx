import { useState } from 'react'
import { w } from '../../words'
import { useHand } from '../shell/hand'
import { type RuleProps, seconds, useFirst, useSaid, useSummary } from './data'
import { useInStep } from './InStep'
import { Pick, Write } from './parts'
import type { Change } from './pattern'

const ways = ['first', 'shift', 'zone', 'step'] as const
type Way = (typeof ways)[number]

const zones = Intl.supportedValuesOf('timeZone')
const here = Intl.DateTimeFormat().resolvedOptions().timeZone

/** Sets a wrong clock right: by one photo of which the moment is known, by as much, or from one time zone to another; of all cameras or of one. */
export function DatesRule({ onSay }: RuleProps) {
  const { ids } = useHand()
  const summary = useSummary().data
  const first = useFirst(ids[0])
  const [way, setWay] = useState<Way>('first')
  const [camera, setCamera] = useState('*')
  const [really, setReally] = useState('')
  const [hours, setHours] = useState('')
  const [minutes, setMinutes] = useState('')
  const [later, setLater] = useState<'later' | 'earlier'>('later')
  const [from, setFrom] = useState(zones.includes(here) ? here : 'Europe/London')
  const [to, setTo] = useState('')
  const only = camera === '*' ? null : camera
  const inStep = useInStep()
  useSaid(onSay, change())

  function change(): readonly Change[] | null {
    if (way === 'step') return inStep.step && inStep.step.seconds !== 0 ? [{ shift: inStep.step }] : null
    if (way === 'zone')
      return zones.includes(to) && zones.includes(from) ? [{ zone: { from, to, camera: only } }] : null
    const by =
      way === 'shift'
        ? (Number(hours) * 3600 + Number(minutes) * 60) * (later === 'later' ? 1 : -1)
        : first?.taken && really
          ? seconds(really) - seconds(first.taken)
          : 0
    return Number.isFinite(by) && by !== 0 ? [{ shift: { seconds: Math.round(by), camera: only } }] : null
  }

  const cameras = [
    ['*', w.describing.allCameras] as const,
    ...(summary?.cameras ?? []).map((c) => [c.value, c.value || w.describing.noCamera] as const),
  ]
  return (
    <>
      {w.describing.setClock}{' '}
      {way !== 'step' && (
        <>
          {w.describing.ofCamera}{' '}
          <Pick label={w.describing.ofCamera} value={camera} choices={cameras} onPick={setCamera} />{' '}
        </>
      )}
      <Pick
        label={w.describing.setClock}
        value={way}
        choices={ways.map((k) => [k, w.describing.ways[k]] as const)}
        onPick={setWay}
      />
      .{' '}
      {way === 'first' && (
        <>
          {w.describing.firstTaken}{' '}
          <Write
            type="datetime-local"
            label={w.describing.firstTaken}
            value={really || (first?.taken?.slice(0, 19) ?? '')}
            onWrite={setReally}
          />
          . {w.describing.moveWith}
        </>
      )}
      {way === 'step' && inStep.sentence}
      {way === 'shift' && (
        <>
          <Pick
            label={w.describing.ways.shift}
            value={later}
            choices={[
              ['later', w.describing.shiftBy],
              ['earlier', w.describing.earlierBy],
            ]}
            onPick={setLater}
          />{' '}
          <Write
            type="number"
            min={0}
            placeholder="0"
            label={w.describing.hours}
            value={hours}
            onWrite={setHours}
          />{' '}
          {w.describing.hours}{' '}
          <Write
            type="number"
            min={0}
            placeholder="0"
            label={w.describing.minutes}
            value={minutes}
            onWrite={setMinutes}
          />{' '}
          {w.describing.minutes}.
        </>
      )}
      {way === 'zone' && (
        <>
          {w.describing.wasSetTo} <Zone label={w.describing.wasSetTo} value={from} onWrite={setFrom} />,{' '}
          {w.describing.takenIn} <Zone label={w.describing.takenIn} value={to} onWrite={setTo} />.
          <datalist id="zones">
            {zones.map((zone) => (
              <option key={zone} value={zone} />
            ))}
          </datalist>
        </>
      )}
    </>
  )
}

/** A time zone, found by typing. */
function Zone({ label, value, onWrite }: { label: string; value: string; onWrite: (zone: string) => void }) {
  return (
    <input
      list="zones"
      aria-label={label}
      placeholder="Europe/London"
      className="w-52 border-b-2 border-strong-line bg-transparent leading-tight font-semibold outline-none placeholder:font-normal focus:border-plum"
      value={value}
      onChange={(e) => onWrite(e.target.value)}
    />
  )
}
