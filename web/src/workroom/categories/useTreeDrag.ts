import { type PointerEvent, useRef, useState } from 'react'
import { indent, isBeneath, type Landing, landing, type TreeLine } from './tree'

/** A line on its way: which, before which line that stays it would be set down (null: behind all), and how deep. */
export type Dragged = { id: string; before: string | null; depth: number }

/** Drags lines of a tree by their handles: up and down to a gap, sideways to a depth. */
export function useTreeDrag(lines: readonly TreeLine[], drop: (id: string, to: Landing) => void) {
  const list = useRef<HTMLUListElement>(null)
  const [dragged, setDragged] = useState<Dragged | null>(null)
  const from = useRef<{ x: number; depth: number } | null>(null)
  const to = useRef<Landing | null>(null)

  function move(e: PointerEvent, id: string) {
    if (!from.current || !list.current) return
    const rest = lines.filter((l) => !isBeneath(lines, l.id, id))
    const middles = rest.map((l) => {
      const box = list.current?.querySelector(`[data-line="${l.id}"]`)?.getBoundingClientRect()
      return box ? box.top + box.height / 2 : 0
    })
    const found = middles.findIndex((middle) => e.clientY < middle)
    const gap = found < 0 ? rest.length : found
    const wanted = from.current.depth + Math.round((e.clientX - from.current.x) / indent)
    const next = landing(lines, id, gap, wanted)
    to.current = next
    setDragged({ id, before: rest[gap]?.id ?? null, depth: next.depth })
  }

  /** What a handle listens to. */
  const handle = (line: TreeLine) => ({
    onPointerDown: (e: PointerEvent) => {
      e.currentTarget.setPointerCapture(e.pointerId)
      from.current = { x: e.clientX, depth: line.depth }
    },
    onPointerMove: (e: PointerEvent) => move(e, line.id),
    onPointerUp: () => {
      if (to.current) drop(line.id, to.current)
      from.current = to.current = null
      setDragged(null)
    },
    onPointerCancel: () => {
      from.current = to.current = null
      setDragged(null)
    },
  })
  return { list, dragged, handle }
}
