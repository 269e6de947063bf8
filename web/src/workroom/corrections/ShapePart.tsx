import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { Range } from '../../kit/Range'
import { w } from '../../words'
import { turnedSize } from './geometry'
import { type ShapeName, shapes } from './shapes'
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
  const turned = turnedSize(plate, correction.turns)
  const wide = correction.crop.width * turned.width
  const high = correction.crop.height * turned.height
  const size = { w: Math.round(wide), h: Math.round(high) }
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
        {(Object.keys(shapes) as ShapeName[])
          .filter((name) => name !== 'asShot' || !plate.isPart)
          .map((name) => (
            <button
              key={name}
              type="button"
              aria-pressed={name === shape}
              className={`min-h-6 whitespace-nowrap underline decoration-1 underline-offset-[5px] ${name === shape ? 'font-semibold text-plum decoration-plum' : 'decoration-strong-line hover:decoration-ink'}`}
              onClick={() => onShape(name)}
            >
              {w.correct.shapes[name]}
            </button>
          ))}
        {shapes[shape] !== null && shapes[shape] !== 0 && shape !== 'square' && (
          <Button look="word" onClick={() => onShape(shape, wide < high)}>
            {wide < high ? w.correct.lying : w.correct.upright}
          </Button>
        )}
      </div>
      <p className="text-quiet tabular-nums">{w.correct.size(size.w, size.h)}</p>
    </div>
  )
}
