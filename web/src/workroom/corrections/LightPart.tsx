import { useState } from 'react'
import type { Api } from '../../api/client'
import { Choice } from '../../kit/Button'
import { Range } from '../../kit/Range'
import { w } from '../../words'
import type { Change, Correction } from './useCorrection'
import type { Axis } from './useTones'

/** Brightness, contrast, and black and white. */
export function LightPart({
  plate,
  correction,
  onMoving,
  say,
}: {
  plate: Api['CorrectionPlate']
  correction: Correction
  onMoving: (axis: Axis) => void
  say: (change: Change) => void
}) {
  const { brightness, contrast, greys } = correction
  const usual = plate.usualGreys
  const [last, setLast] = useState(usual)
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
        <Choice on={!greys} onClick={() => say({ inColour: true })}>
          {w.correct.inColour}
        </Choice>
        <Choice on={!!greys} onClick={() => !greys && say({ greys: last })}>
          {w.correct.grey}
        </Choice>
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
