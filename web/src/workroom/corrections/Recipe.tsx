import type { ReactNode } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { LightPart } from './LightPart'
import { ShapePart } from './ShapePart'
import type { Look } from './Stage'
import { type ShapeName, shapeOf } from './shapes'
import type { Change, Correction } from './useCorrection'
import type { Axis } from './useTones'

/** The recipe of a photo, a sentence a part; the one that is open can be changed, and is what the picture is looked at for. */
export function Recipe({
  plate,
  correction,
  look,
  onLook,
  shape,
  onShape,
  drawing,
  onDraw,
  onMoving,
  say,
}: {
  plate: Api['CorrectionPlate']
  correction: Correction
  look: Look
  onLook: (look: Look) => void
  shape: ShapeName
  onShape: (shape: ShapeName, lying?: boolean) => void
  drawing: boolean
  onDraw: () => void
  onMoving: (axis: Axis) => void
  say: (change: Change) => void
}) {
  const { turns, angle, brightness, contrast, greys, focus } = correction
  const named = shapeOf(correction, plate)
  return (
    <div className="border-b border-line">
      <Part
        name={w.correct.parts.shape}
        says={w.correct.saysShape(
          turns,
          angle,
          correction.isCropped ? w.correct.cropped(named === 'free' ? '' : w.correct.shapes[named]) : '',
        )}
        open={look === 'shape'}
        onOpen={() => onLook('shape')}
      >
        <ShapePart
          plate={plate}
          correction={correction}
          shape={shape}
          onShape={onShape}
          drawing={drawing}
          onDraw={onDraw}
          say={say}
        />
      </Part>
      <Part
        name={w.correct.parts.light}
        says={w.correct.saysLight(brightness, contrast, greys !== null)}
        open={look === 'light'}
        onOpen={() => onLook('light')}
      >
        <LightPart plate={plate} correction={correction} onMoving={onMoving} say={say} />
      </Part>
      <Part
        name={w.correct.parts.focus}
        says={w.correct.saysFocus(focus !== null)}
        open={look === 'focus'}
        onOpen={() => onLook('focus')}
      >
        <p className="text-small text-quiet">{w.correct.focusLead}</p>
        {focus && (
          <Button look="word" className="mt-2 text-small" onClick={() => say({ inMiddle: true })}>
            {w.correct.inMiddle}
          </Button>
        )}
      </Part>
    </div>
  )
}

function Part({
  name,
  says,
  open,
  onOpen,
  children,
}: {
  name: string
  says: string
  open: boolean
  onOpen: () => void
  children: ReactNode
}) {
  return (
    <section className="border-t border-line py-3" aria-label={name}>
      <button type="button" aria-expanded={open} className="block w-full text-left" onClick={onOpen}>
        <span className={`block font-display font-semibold ${open ? 'text-plum' : ''}`}>{name}</span>
        <span className="block text-small text-quiet">{says}</span>
      </button>
      {open && <div className="mt-3">{children}</div>}
    </section>
  )
}
