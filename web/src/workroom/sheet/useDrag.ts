import {
  type PointerEvent as ReactPointerEvent,
  type RefObject,
  useCallback,
  useEffect,
  useRef,
  useState,
} from 'react'
import { gap } from './grid'

type Grid = { columns: number; cell: number; pitch: number }

const startsAfter = 6
const edge = 56

/**
 * What a pointer does on the sheet: a press toggles, a drag takes along the way or, where the order is made by hand, moves.
 * `from` and `to` are frames; `slot` is the place between frames where what is moved would stand.
 */
export function useDrag(
  scroller: RefObject<HTMLElement | null>,
  grid: Grid,
  total: number,
  moves: boolean,
  act: {
    press: (index: number, e: PointerEvent, onName: boolean) => void
    along: (from: number, to: number) => void
    drop: (from: number, slot: number) => void
  },
) {
  const [drag, setDrag] = useState<{ from: number; to: number; slot: number } | null>(null)
  const start = useRef<{ index: number; x: number; y: number; onName: boolean; going: boolean } | null>(null)
  const latest = useRef({ grid, total, moves, act })
  latest.current = { grid, total, moves, act }
  const last = useRef(drag)
  last.current = drag

  useEffect(() => {
    function place(e: PointerEvent) {
      const element = scroller.current
      if (!element) return { to: 0, slot: 0 }
      const { grid: g, total: n } = latest.current
      const box = element.getBoundingClientRect()
      const x = e.clientX - box.left
      const y = e.clientY - box.top + element.scrollTop
      const row = Math.max(0, Math.floor(y / g.pitch))
      const across = x / (g.cell + gap)
      const column = Math.min(g.columns - 1, Math.max(0, Math.floor(across)))
      const to = Math.min(n - 1, row * g.columns + column)
      return { to, slot: Math.min(n, row * g.columns + Math.min(g.columns, Math.max(0, Math.round(across)))) }
    }
    function move(e: PointerEvent) {
      const s = start.current
      if (!s) return
      if (!s.going && Math.hypot(e.clientX - s.x, e.clientY - s.y) < startsAfter) return
      s.going = true
      const element = scroller.current
      if (element) {
        const box = element.getBoundingClientRect()
        if (e.clientY > box.bottom - edge) element.scrollBy(0, 24)
        else if (e.clientY < box.top + edge) element.scrollBy(0, -24)
      }
      setDrag({ from: s.index, ...place(e) })
    }
    function up(e: PointerEvent) {
      const s = start.current
      start.current = null
      const going = last.current
      setDrag(null)
      if (!s) return
      const { act: does, moves: reorders } = latest.current
      if (!s.going) does.press(s.index, e, s.onName)
      else if (going && reorders) does.drop(s.index, going.slot)
      else if (going) does.along(going.from, going.to)
    }
    function cancel() {
      start.current = null
      setDrag(null)
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', up)
    window.addEventListener('pointercancel', cancel)
    return () => {
      window.removeEventListener('pointermove', move)
      window.removeEventListener('pointerup', up)
      window.removeEventListener('pointercancel', cancel)
    }
  }, [scroller])

  const onPointer = useCallback((e: ReactPointerEvent, index: number) => {
    if (e.button !== 0) return
    start.current = {
      index,
      x: e.clientX,
      y: e.clientY,
      onName: e.target instanceof Element && e.target.closest('[data-open]') !== null,
      going: false,
    }
  }, [])

  return { drag, onPointer }
}
