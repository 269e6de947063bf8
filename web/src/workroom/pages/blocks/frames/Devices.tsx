import { type ReactNode, useState } from 'react'
import { Button } from '../../../../kit/Button'
import { WordTabs } from '../../../../kit/WordTabs'
import { w } from '../../../../words'
import { Says } from '../Parts'

const devices = ['desktop', 'tablet', 'phone'] as const

/** What is set for a desktop, and for smaller screens where it is set apart there. */
type Each<Set> = { desktop: Set; tablet: Set | null; phone: Set | null }

/** Settings of one device at a time; a tablet and a phone are as a desktop until they are set apart. */
export function Devices<Set>({
  each,
  onSay,
  children,
}: {
  each: Each<Set>
  onSay: (next: Partial<Each<Set>>) => void
  children: (set: Set, say: (set: Set) => void) => ReactNode
}) {
  const [device, setDevice] = useState<(typeof devices)[number]>('desktop')
  const set = each[device]
  const say = (next: Set | null) => onSay({ [device]: next } as Partial<Each<Set>>)
  const named = (name: (typeof devices)[number]) => (
    <>
      {w.frames.device[name]}
      {name !== 'desktop' && each[name] !== null && <span className="text-plum"> · {w.pages.set}</span>}
    </>
  )
  return (
    <>
      <WordTabs
        label={w.frames.devices}
        tabs={devices.map((name) => [name, named(name)] as const)}
        chosen={device}
        onChoose={setDevice}
      />
      {set === null ? (
        <Says>
          <span>{w.frames.asOnDesktop}</span>
          <Button look="word" onClick={() => say(each.desktop)}>
            {w.frames.setApart}
          </Button>
        </Says>
      ) : (
        children(set, say)
      )}
      {device !== 'desktop' && set !== null && (
        <p>
          <Button look="word" onClick={() => say(null)}>
            {w.frames.asDesktop}
          </Button>
        </p>
      )}
    </>
  )
}
