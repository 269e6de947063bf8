import { useState } from 'react'
import { Range } from '../../kit/Range'
import { w } from '../../words'
import type { Change, Correction } from './useCorrection'
import type { Axis } from './useTones'

/** As the eye weighs the colours (ITU-R BT.709). */
const usual = { red: 21, green: 72, blue: 7 }

/** Brightness, contrast, and black and white. */
export function LightPart({
  correction,
  onMoving,
  say,
}: {
  correction: Correction
  onMoving: (axis: Axis) => void
  say: (change: Change) => void
}) {
  const { brightness, contrast, greys } = correction
  const [last, setLast] = useState(usual)
  const way = (on: boolean) =>
    `min-h-6 underline decoration-1 underline-offset-[5px] ${on ? 'font-semibold text-plum decoration-plum' : 'decoration-strong-line hover:decoration-ink'}`
  return (
    <div className="grid gap-3.5 text-small">
      <Range
        label={w.correct.brightness}
        value={brightness}
        least={-100}
        most={100}
        says={w.correct.signed(brightness)}
        onBegin={() => onMoving('brightness')}
        onChange={(value) => say({ brightness: value })}
      />
      <Range
        label={w.correct.contrast}
        value={contrast}
        least={-100}
        most={100}
        says={w.correct.signed(contrast)}
        onBegin={() => onMoving('contrast')}
        onChange={(value) => say({ contrast: value })}
      />
      <p className="flex gap-4">
        <button
          type="button"
          aria-pressed={!greys}
          className={way(!greys)}
          onClick={() => say({ inColour: true })}
        >
          {w.correct.inColour}
        </button>
        <button
          type="button"
          aria-pressed={!!greys}
          className={way(!!greys)}
          onClick={() => !greys && say({ greys: last })}
        >
          {w.correct.grey}
        </button>
      </p>
      {greys && (
        <fieldset className="grid gap-2.5">
          <legend className="mb-2 text-quiet">{w.correct.coloursLead}</legend>
          {(['red', 'green', 'blue'] as const).map((colour) => (
            <Range
              key={colour}
              label={w.correct.colours[colour]}
              value={greys[colour]}
              least={0}
              most={100}
              rest={usual[colour]}
              says={String(greys[colour])}
              onChange={(value) => {
                const next = { ...greys, [colour]: value }
                setLast(next)
                say({ greys: next })
              }}
            />
          ))}
        </fieldset>
      )}
    </div>
  )
}
