import type { Api } from '../../api/client'
import { Button, Choice } from '../../kit/Button'
import { Range } from '../../kit/Range'
import { w } from '../../words'
import { isLying, keptSize, type ShapeName } from './shapes'
import type { Change, Correction } from './useCorrection'

/** Turning, straightening and cropping. */
export function ShapePart({
  plate,
  correction,
  shape,
  onShape,
  drawing,
  onDraw,
  say,
}: {
  plate: Api['CorrectionPlate']
  correction: Correction
  shape: ShapeName
  onShape: (shape: ShapeName, lying?: boolean) => void
  drawing: boolean
  onDraw: () => void
  say: (change: Change) => void
}) {
  const size = keptSize(correction, plate)
  const lying = isLying(correction, plate)
  const names: ShapeName[] = ['free', ...plate.shapes.flatMap((s) => s.shape ?? [])]
  return (
    <div className="grid gap-3.5 text-small">
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-quiet">{w.correct.turn}</span>
        <Button look="word" onClick={() => say({ turn: -1 })}>
          {w.correct.left}
        </Button>
        <Button look="word" hint="T" onClick={() => say({ turn: 1 })}>
          {w.correct.right}
        </Button>
      </p>
      <div>
        <Range
          label={w.correct.level}
          value={correction.angle}
          least={-45}
          most={45}
          step={0.1}
          says={w.correct.degrees(correction.angle)}
          onChange={(angle) => say({ angle })}
        />
        <Button
          look="word"
          hint="H"
          className={`mt-1.5 ${drawing ? 'text-plum' : ''}`}
          aria-pressed={drawing}
          onClick={onDraw}
        >
          {w.correct.draw}
        </Button>
      </div>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <span className="text-quiet">{w.correct.crop}</span>
        {names.map((name) => (
          <Choice key={name} on={name === shape} onClick={() => onShape(name)}>
            {w.correct.shapes[name]}
          </Choice>
        ))}
        {!['free', 'asShot', 'square'].includes(shape) && (
          <Button look="word" onClick={() => onShape(shape, !lying)}>
            {lying ? w.correct.upright : w.correct.lying}
          </Button>
        )}
      </div>
      <p className="text-quiet tabular-nums">
        {w.correct.size(Math.round(size.width), Math.round(size.height))}
      </p>
    </div>
  )
}
