import { type KeyboardEvent, type PointerEvent, useRef } from 'react'
import { w } from '../../words'
import { type Crop, type Handle, moved, type Point, pulled, type Size } from './geometry'

const handles: readonly Handle[] = [
  { x: -1, y: -1 },
  { x: 0, y: -1 },
  { x: 1, y: -1 },
  { x: 1, y: 0 },
  { x: 1, y: 1 },
  { x: 0, y: 1 },
  { x: -1, y: 1 },
  { x: -1, y: 0 },
]

const cursors: Record<string, string> = {
  '-1,-1': 'nwse-resize',
  '1,1': 'nwse-resize',
  '1,-1': 'nesw-resize',
  '-1,1': 'nesw-resize',
  '0,-1': 'ns-resize',
  '0,1': 'ns-resize',
  '-1,0': 'ew-resize',
  '1,0': 'ew-resize',
}

/** What of the picture is kept: moved by dragging it, or with the arrows; made larger and smaller at its corners and sides, or with Shift and the arrows. */
export function CropFrame({
  frame,
  crop,
  turned,
  angle,
  ratio,
  at,
  onCrop,
  onPulling,
}: {
  frame: { left: number; top: number; width: number; height: number }
  crop: Crop
  turned: Size
  angle: number
  ratio: number | null
  at: (e: { clientX: number; clientY: number }) => Point
  onCrop: (crop: Crop) => void
  /** Told when pulling begins and ends. */
  onPulling: (on: boolean) => void
}) {
  const drag = useRef<{ handle: Handle | null; crop: Crop; from: Point } | null>(null)
  function begin(handle: Handle | null) {
    return (e: PointerEvent<HTMLElement>) => {
      e.stopPropagation()
      e.currentTarget.setPointerCapture(e.pointerId)
      drag.current = { handle, crop, from: at(e) }
      onPulling(true)
    }
  }
  function move(e: PointerEvent<HTMLElement>) {
    const d = drag.current
    if (!d) return
    const to = at(e)
    onCrop(
      d.handle
        ? pulled(crop, d.handle, to, turned, angle, ratio)
        : moved(
            crop,
            d.crop.x + to.x - d.from.x - crop.x,
            d.crop.y + to.y - d.from.y - crop.y,
            turned,
            angle,
          ),
    )
  }
  const end = () => {
    drag.current = null
    onPulling(false)
  }
  function press(e: KeyboardEvent) {
    const step = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key]
    if (!step) return
    e.preventDefault()
    e.stopPropagation()
    const [dx = 0, dy = 0] = step.map((s) => s * 0.01)
    onCrop(
      e.shiftKey
        ? pulled(
            crop,
            { x: dx === 0 ? 0 : 1, y: dy === 0 ? 0 : 1 },
            { x: crop.x + crop.width + dx, y: crop.y + crop.height + dy },
            turned,
            angle,
            ratio,
          )
        : moved(crop, dx, dy, turned, angle),
    )
  }
  return (
    // biome-ignore lint/a11y/useSemanticElements: it is no field of a form
    <div
      role="group"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved with the arrows
      tabIndex={0}
      aria-label={w.correct.frame}
      data-testid="crop"
      className="absolute cursor-move touch-none shadow-[0_0_0_1px_rgb(255_255_255/0.9),0_0_0_2px_rgb(0_0_0/0.45)]"
      style={frame}
      onPointerDown={begin(null)}
      onPointerMove={move}
      onPointerUp={end}
      onKeyDown={press}
    >
      <div className="pointer-events-none absolute inset-x-0 top-1/3 h-1/3 border-y border-[rgb(255_255_255/0.5)]" />
      <div className="pointer-events-none absolute inset-y-0 left-1/3 w-1/3 border-x border-[rgb(255_255_255/0.5)]" />
      {handles.map((handle) => (
        <span
          key={`${handle.x},${handle.y}`}
          data-handle={`${handle.x},${handle.y}`}
          className="absolute grid size-7 -translate-1/2 touch-none place-items-center"
          style={{
            left: `${(handle.x + 1) * 50}%`,
            top: `${(handle.y + 1) * 50}%`,
            cursor: cursors[`${handle.x},${handle.y}`],
          }}
          onPointerDown={begin(handle)}
          onPointerMove={move}
          onPointerUp={end}
        >
          <span className="size-2.5 rounded-control bg-[white] shadow-[0_0_0_1px_rgb(0_0_0/0.55)]" />
        </span>
      ))}
    </div>
  )
}
