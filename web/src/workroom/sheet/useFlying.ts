import { useEffect, useRef, useState } from 'react'

/** Windows of the sheet that go by in a second when nobody can see what is on them. */
const fast = 5

/** How long it takes to be sure that one has come to rest, milliseconds. */
const rest = 140

/** Whether the sheet goes by so fast that its pictures are better not asked for until it slows down. */
export function useFlying(offset: number, height: number): boolean {
  const [flying, setFlying] = useState(false)
  const before = useRef({ offset, at: 0 })
  useEffect(() => {
    const now = performance.now()
    const { offset: from, at } = before.current
    if (now - at > 30) {
      before.current = { offset, at: now }
      if (now - at < 300) setFlying(Math.abs(offset - from) / (now - at) > (fast * height) / 1000)
    }
    const timer = setTimeout(() => setFlying(false), rest)
    return () => clearTimeout(timer)
  }, [offset, height])
  return flying
}
