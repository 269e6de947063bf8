import { type PointerEvent, useId, useRef, useState } from 'react'
import type { Api } from '../../api/client'
import { rendition, sourceSet } from '../../kit/renditions'
import { useBox } from '../../kit/useBox'
import { w } from '../../words'
import { CropFrame } from './CropFrame'
import { askew, bounds, type Crop, type Point, rotate, turnedSize, turnedSpot, unturned } from './geometry'
import type { Correction } from './useCorrection'

/** What the picture is looked at for: its shape with what is cropped away about it, its light as it will be seen, its focus, or how it came in. */
export type Look = 'shape' | 'light' | 'focus'

/** A crop with what lies round it. */
const wider = (c: Crop): Crop => ({
  x: c.x - c.width * 0.15,
  y: c.y - c.height * 0.15,
  width: c.width * 1.3,
  height: c.height * 1.3,
})

/** Room about the picture for the handles, CSS pixels. */
const margin = 18

/**
 * The picture with its correction on it, made in the browser out of the uncorrected rendition: turned and straightened by a
 * transform, its tones by the server's own tables.
 */
export function Stage({
  plate,
  correction,
  look,
  tones,
  ratio,
  drawing,
  onCrop,
  onAngle,
  onFocus,
  children,
}: {
  plate: Api['CorrectionPlate']
  correction: Correction
  look: Look
  tones: string | null
  ratio: number | null
  /** A line along the horizon is to be drawn. */
  drawing: boolean
  onCrop: (crop: Crop) => void
  onAngle: (angle: number) => void
  onFocus: (spot: Point) => void
  /** Laid over the picture as it came in, in parts of its size. */
  children?: React.ReactNode
}) {
  const place = useRef<HTMLDivElement>(null)
  const room = useBox(place, { width: 0, height: 0 })
  const [still, setStill] = useState<Crop | null>(null)
  const filter = useId()
  const { turns, angle, crop } = correction
  const turned = turnedSize(plate, turns)
  const box = bounds(turned, angle)
  const inner = { width: Math.max(1, room.width - 2 * margin), height: Math.max(1, room.height - 2 * margin) }
  // All of the picture, or what is kept of it; of a print on a scan, what lies round it. While one pulls, it stands still.
  const near = look === 'light' ? crop : plate.isPart ? wider(still ?? crop) : null
  const seen = near ? { width: near.width * turned.width, height: near.height * turned.height } : box
  const scale = Math.min(inner.width / seen.width, inner.height / seen.height)
  // Where the middle of the frame stands: the middle of the room, or so that the middle of what is near stands there.
  const middle = {
    x: room.width / 2 - (near ? (near.x + near.width / 2 - 0.5) * turned.width * scale : 0),
    y: room.height / 2 - (near ? (near.y + near.height / 2 - 0.5) * turned.height * scale : 0),
  }
  const frame = {
    left: middle.x + (crop.x - 0.5) * turned.width * scale,
    top: middle.y + (crop.y - 0.5) * turned.height * scale,
    width: crop.width * turned.width * scale,
    height: crop.height * turned.height * scale,
  }
  /** A place on the screen as a place of the frame, in parts of its size. */
  function at(e: { clientX: number; clientY: number }): Point {
    const here = place.current?.getBoundingClientRect()
    return {
      x: (e.clientX - (here?.left ?? 0) - middle.x) / (turned.width * scale) + 0.5,
      y: (e.clientY - (here?.top ?? 0) - middle.y) / (turned.height * scale) + 0.5,
    }
  }
  function pressed(e: PointerEvent) {
    if (look !== 'focus') return
    const p = at(e)
    const back = rotate({ x: (p.x - 0.5) * turned.width, y: (p.y - 0.5) * turned.height }, -angle)
    const spot = unturned({ x: back.x / turned.width + 0.5, y: back.y / turned.height + 0.5 }, turns)
    if (spot.x >= 0 && spot.x <= 1 && spot.y >= 0 && spot.y <= 1) onFocus(spot)
  }
  const greys = correction.greys
  const all = greys ? greys.red + greys.green + greys.blue : 0
  const [r, g, b] =
    greys && all > 0 ? [greys.red / all, greys.green / all, greys.blue / all] : [1 / 3, 1 / 3, 1 / 3]
  const matrix = greys
    ? `${`${r} ${g} ${b} 0 0 `.repeat(3)}0 0 0 1 0`
    : '1 0 0 0 0 0 1 0 0 0 0 0 1 0 0 0 0 0 1 0'
  const focus = correction.focus && turnedSpot(correction.focus, turns)
  const mark = focus && {
    ...rotate(
      { x: (focus.x - 0.5) * turned.width * scale, y: (focus.y - 0.5) * turned.height * scale },
      angle,
    ),
  }
  return (
    <div
      ref={place}
      className={`relative h-full min-h-[20rem] overflow-hidden ${look === 'focus' ? 'cursor-crosshair' : ''}`}
      data-testid="stage"
      onPointerDown={pressed}
    >
      <svg width="0" height="0" className="absolute" aria-hidden>
        <filter id={filter} colorInterpolationFilters="sRGB" x="0" y="0" width="1" height="1">
          <feColorMatrix values={matrix} />
          {tones && (
            <feComponentTransfer>
              <feFuncR type="table" tableValues={tones} />
              <feFuncG type="table" tableValues={tones} />
              <feFuncB type="table" tableValues={tones} />
            </feComponentTransfer>
          )}
        </filter>
      </svg>
      {room.width > 0 && (
        <>
          <div
            className="absolute"
            style={{
              left: middle.x - (plate.width * scale) / 2,
              top: middle.y - (plate.height * scale) / 2,
              width: plate.width * scale,
              height: plate.height * scale,
              transform: `rotate(${turns * 90 + angle}deg)`,
            }}
          >
            <img
              src={rendition(plate.original, 480)}
              srcSet={sourceSet(plate.original, plate.renditions, plate.width)}
              sizes={`${Math.ceil(plate.width * scale)}px`}
              alt={plate.name}
              draggable={false}
              className="size-full max-w-none select-none"
              style={greys || tones ? { filter: `url(#${filter})` } : undefined}
            />
            {children}
          </div>
          <div
            className="pointer-events-none absolute"
            style={{
              ...frame,
              boxShadow: `0 0 0 4000px ${look === 'light' ? 'var(--paper)' : 'color-mix(in oklab, var(--paper) 72%, transparent)'}`,
            }}
          />
          {look === 'shape' && !drawing && !children && (
            <CropFrame
              frame={frame}
              crop={crop}
              turned={turned}
              angle={angle}
              ratio={ratio}
              at={at}
              onCrop={onCrop}
              onPulling={(on) => setStill(on ? crop : null)}
            />
          )}
          {look === 'focus' && mark && (
            <div
              className="pointer-events-none absolute size-7 -translate-1/2 rounded-full border-2 border-[white] shadow-[0_0_0_1px_rgb(0_0_0/0.6)]"
              style={{ left: middle.x + mark.x, top: middle.y + mark.y }}
            />
          )}
          {drawing && <Horizon onDrawn={(from, to) => onAngle(angle - askew(from, to))} />}
        </>
      )}
    </div>
  )
}

/** Takes a line that is drawn along what should be level, or plumb. */
function Horizon({ onDrawn }: { onDrawn: (from: Point, to: Point) => void }) {
  const [line, setLine] = useState<{ from: Point; to: Point } | null>(null)
  const here = (e: PointerEvent<HTMLElement>): Point => {
    const box = e.currentTarget.getBoundingClientRect()
    return { x: e.clientX - box.left, y: e.clientY - box.top }
  }
  return (
    <div
      className="absolute inset-0 cursor-crosshair touch-none"
      data-testid="horizon"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        setLine({ from: here(e), to: here(e) })
      }}
      onPointerMove={(e) => line && setLine({ ...line, to: here(e) })}
      onPointerUp={(e) => {
        const to = here(e)
        if (line && Math.hypot(to.x - line.from.x, to.y - line.from.y) > 20) onDrawn(line.from, to)
        setLine(null)
      }}
    >
      <span className="absolute top-3 left-3 bg-raised px-2 py-1 text-small">{w.correct.drawLead}</span>
      {line && (
        <svg className="absolute inset-0 size-full" aria-hidden>
          {(['black', 'white'] as const).map((stroke) => (
            <line
              key={stroke}
              x1={line.from.x}
              y1={line.from.y}
              x2={line.to.x}
              y2={line.to.y}
              stroke={stroke}
              strokeWidth={stroke === 'black' ? 3 : 1.5}
            />
          ))}
        </svg>
      )}
    </div>
  )
}
