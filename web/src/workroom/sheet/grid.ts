import { type RefObject, useLayoutEffect, useMemo, useState } from 'react'

/** Sizes of a cell: its wanted width and the height of its picture. */
export const cellSizes = [
  { cell: 116, picture: 88 },
  { cell: 150, picture: 112 },
  { cell: 228, picture: 172 },
] as const

export const gap = 16
const label = 24

/** How cells stand in the width at hand: as many as fit, stretched to fill it. */
export function useGrid(scroller: RefObject<HTMLElement | null>, size: number) {
  const [width, setWidth] = useState(0)
  useLayoutEffect(() => {
    const element = scroller.current
    if (!element) return
    const measure = () => setWidth(element.clientWidth)
    measure()
    const watch = new ResizeObserver(measure)
    watch.observe(element)
    return () => watch.disconnect()
  }, [scroller])
  return useMemo(() => {
    const wanted = cellSizes[size] ?? cellSizes[1]
    const columns = Math.max(1, Math.floor((width + gap) / (wanted.cell + gap)))
    const cell = Math.max(1, Math.floor((width - gap * (columns - 1)) / columns))
    const picture = Math.round((cell * wanted.picture) / wanted.cell)
    return { width, columns, cell, picture, pitch: picture + label + gap }
  }, [width, size])
}
