import { type PointerEvent, useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react'
import { about, most, type Point, whole, within, type Zoom } from './zoom'

/** A finger that goes so far, CSS pixels, means something. */
const swipe = 45
/** Two taps so close, CSS pixels and milliseconds, are one gesture. */
const tap = { far: 30, long: 320 }
/** A key makes it so many times larger. */
const byKey = 1.5

type Down = { from: Point; at: Point }

/**
 * A photo on a stage, whole or larger: by the wheel, by two fingers, by a double press and by keys, moved by dragging. At whole size a
 * finger that is drawn across leafs instead.
 */
export function useZoom(photo: string, pixels: number, onLeaf: (by: number) => void) {
  const stage = useRef<HTMLDivElement>(null)
  const picture = useRef<HTMLImageElement>(null)
  const [zoom, setZoom] = useState<Zoom>(whole)
  const now = useRef(zoom)
  now.current = zoom
  const downs = useRef(new Map<number, Down>())
  const began = useRef<{ zoom: Zoom; apart: number; middle: Point } | null>(null)
  const tapped = useRef<{ at: Point; when: number } | null>(null)
  const moved = useRef(false)
  /** More than one finger had to do with it: what the last of them does as it goes means nothing. */
  const many = useRef(false)

  const change = useCallback(
    (next: (zoom: Zoom, room: { photo: DOMRectReadOnly; stage: DOMRectReadOnly; most: number }) => Zoom) => {
      const [box, image] = [stage.current, picture.current]
      if (!box || !image) return
      // As it is laid out, whatever it is drawn larger by.
      const size = new DOMRectReadOnly(0, 0, image.offsetWidth, image.offsetHeight)
      const wanted = next(now.current, {
        photo: size,
        stage: box.getBoundingClientRect(),
        most: most(pixels, image.offsetWidth),
      })
      now.current = wanted.scale <= 1 ? whole : wanted
      setZoom(now.current)
    },
    [pixels],
  )
  /** So many times larger, about a point of the window; about the middle where none is said. */
  const scale = useCallback(
    (by: number, point?: Point) =>
      change((zoom, room) => {
        const { left, top, width, height } = room.stage
        const from = point ? { x: point.x - left - width / 2, y: point.y - top - height / 2 } : { x: 0, y: 0 }
        const to = Math.min(room.most, Math.max(1, zoom.scale * by))
        return about(zoom, to, from, room.photo, room.stage)
      }),
    [change],
  )
  const turnRound = useCallback(
    (point?: Point) => (now.current.scale > 1 ? scale(0, point) : scale(Number.POSITIVE_INFINITY, point)),
    [scale],
  )
  // biome-ignore lint/correctness/useExhaustiveDependencies: another photo begins whole.
  useLayoutEffect(() => setZoom(whole), [photo])
  useEffect(() => {
    const box = stage.current
    if (!box) return
    const turn = (e: WheelEvent) => {
      e.preventDefault()
      scale(Math.exp(-e.deltaY * (e.deltaMode === 1 ? 0.05 : 0.002)), { x: e.clientX, y: e.clientY })
    }
    box.addEventListener('wheel', turn, { passive: false })
    const resized = new ResizeObserver(() => change((zoom, room) => within(zoom, room.photo, room.stage)))
    resized.observe(box)
    return () => {
      box.removeEventListener('wheel', turn)
      resized.disconnect()
    }
  }, [scale, change])

  const middle = () => {
    const all = [...downs.current.values()].map((d) => d.at)
    return {
      x: all.reduce((sum, p) => sum + p.x, 0) / all.length,
      y: all.reduce((sum, p) => sum + p.y, 0) / all.length,
    }
  }
  const apart = () => {
    const [one, other] = [...downs.current.values()].map((d) => d.at)
    return one && other ? Math.hypot(one.x - other.x, one.y - other.y) : 0
  }
  const begin = () => {
    began.current = downs.current.size > 0 ? { zoom: now.current, apart: apart(), middle: middle() } : null
  }

  const on = {
    onPointerDown: (e: PointerEvent) => {
      if (e.button !== 0) return
      if (downs.current.size === 0) moved.current = false
      many.current = downs.current.size > 0
      const at = { x: e.clientX, y: e.clientY }
      downs.current.set(e.pointerId, { from: at, at })
      begin()
    },
    onPointerMove: (e: PointerEvent) => {
      const down = downs.current.get(e.pointerId)
      const start = began.current
      if (!down || !start) return
      down.at = { x: e.clientX, y: e.clientY }
      if (Math.hypot(down.at.x - down.from.x, down.at.y - down.from.y) < 4) return
      moved.current = true
      if (now.current.scale > 1 || downs.current.size > 1) stage.current?.setPointerCapture(e.pointerId)
      const to = middle()
      change((zoom, room) => {
        const { left, top, width, height } = room.stage
        const by = start.apart > 0 ? apart() / start.apart : 1
        const larger = Math.min(room.most, Math.max(1, start.zoom.scale * by))
        if (larger === 1 && zoom.scale === 1) return zoom
        const from = { x: start.middle.x - left - width / 2, y: start.middle.y - top - height / 2 }
        const there = about(start.zoom, larger, from, room.photo, room.stage)
        return within(
          { ...there, x: there.x + to.x - start.middle.x, y: there.y + to.y - start.middle.y },
          room.photo,
          room.stage,
        )
      })
    },
    onPointerUp: (e: PointerEvent) => {
      const down = downs.current.get(e.pointerId)
      const alone = downs.current.size === 1
      downs.current.delete(e.pointerId)
      begin()
      if (!down || !alone || many.current) return
      const [across, along] = [e.clientX - down.from.x, e.clientY - down.from.y]
      const drawn = Math.abs(across) > swipe && Math.abs(across) > Math.abs(along) * 1.5
      if (drawn && now.current.scale === 1 && e.pointerType !== 'mouse') onLeaf(across < 0 ? 1 : -1)
      const before = tapped.current
      const isTap = !moved.current && e.target === picture.current
      tapped.current = isTap ? { at: down.from, when: e.timeStamp } : null
      if (!isTap || !before || e.timeStamp - before.when > tap.long) return
      if (Math.hypot(before.at.x - down.from.x, before.at.y - down.from.y) > tap.far) return
      tapped.current = null
      turnRound(down.from)
    },
    onPointerCancel: (e: PointerEvent) => {
      downs.current.delete(e.pointerId)
      begin()
    },
  }
  return {
    stage,
    picture,
    zoom,
    on,
    /** What was pressed was dragged: it is no press. */
    wasDragged: () => moved.current,
    larger: () => scale(byKey),
    smaller: () => scale(1 / byKey),
    turnRound,
  }
}
