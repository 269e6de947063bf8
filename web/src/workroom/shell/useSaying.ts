import { useEffect, useRef } from 'react'
import { useAct } from './data'

/**
 * Says a value anew that is written over what it was: what is pressed while the one before is still being written
 * waits for it, and changes what that one left.
 *
 * @param value What is there, as it was last read.
 * @param write Writes what is to be over what is known to be there.
 * @param done Told with what the server answers.
 * @param inTurn The name of all that waits for one another.
 */
export function useSaying<Value, Out>(
  value: Value | undefined,
  write: (next: Value, was: Value) => Promise<Out>,
  done: (out: Out) => void,
  inTurn: string,
) {
  const known = useRef(value)
  useEffect(() => {
    known.current = value
  }, [value])
  const act = useAct(
    async (change: (was: Value) => Value) => {
      const was = known.current as Value
      const next = change(was)
      const out = await write(next, was)
      known.current = next
      return out
    },
    done,
    inTurn,
  )
  return act.mutate
}
