import { type ReactNode, useState } from 'react'
import type { Api } from '../../api/client'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'

/** So many of a kind before the rest is asked for. */
const shown = 8

/** Tags, people or categories that some of the photos have, in a row: pressed to take one off all, or to put it on all. */
export function SharedThings({
  label,
  things,
  of,
  add,
  onAll,
  onNone,
  chooser,
}: {
  label: string
  things: readonly Api['SharedThing'][]
  /** So many photos there are. */
  of: number
  add: string
  onAll: (thing: Api['SharedThing']) => void
  onNone: (thing: Api['SharedThing']) => void
  chooser: ReactNode
}) {
  const [open, setOpen] = useState(false)
  const [all, setAll] = useState(false)
  const some = all ? things : things.slice(0, shown)
  return (
    <p>
      <span className="text-quiet">{label}</span>{' '}
      {some.map((t) => (
        <span key={t.id}>
          <button
            type="button"
            className="underline decoration-line decoration-1 underline-offset-4 hover:line-through hover:decoration-ink"
            aria-label={w.describing.takeOff(t.name, t.photos)}
            title={w.describing.takeOff(t.name, t.photos)}
            onClick={() => onNone(t)}
          >
            {t.name}
          </button>
          {t.photos < of && (
            <button
              type="button"
              className="pl-1 text-[0.71875rem] text-quiet tabular-nums hover:text-plum hover:underline"
              aria-label={w.describing.putOn(t.name, of)}
              title={w.describing.putOn(t.name, of)}
              onClick={() => onAll(t)}
            >
              {w.count(t.photos)}
            </button>
          )}
          ,{' '}
        </span>
      ))}
      {some.length < things.length && (
        <>
          <button
            type="button"
            className="text-quiet underline decoration-line underline-offset-4"
            onClick={() => setAll(true)}
          >
            {w.describing.more(things.length - some.length)}
          </button>
          ,{' '}
        </>
      )}
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={add}
        trigger={
          <button type="button" className="underline decoration-strong-line decoration-1 underline-offset-4">
            {add}
          </button>
        }
      >
        {chooser}
      </Popover>
    </p>
  )
}
