import { type RefObject, useLayoutEffect, useState } from 'react'

/** How large an element is inside, CSS pixels, whenever that changes. */
export function useBox(
  of: RefObject<HTMLElement | null>,
  /** Until that is known. */
  before = { width: 900, height: 700 },
) {
  const [box, setBox] = useState(before)
  useLayoutEffect(() => {
    const element = of.current
    if (!element) return
    const watch = new ResizeObserver(() =>
      setBox({ width: element.clientWidth, height: element.clientHeight }),
    )
    watch.observe(element)
    return () => watch.disconnect()
  }, [of])
  return box
}
