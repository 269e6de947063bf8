import { useState } from 'react'
import { w } from '../../words'

/** Sends a file that somebody brings, and says what is wrong with it. */
export function useBringing(send: (file: File) => Promise<void>, largest: number, tooLarge: string) {
  const [fault, setFault] = useState('')
  async function bring(file: File) {
    // A body that is too long is cut off on the way: nobody would be told why.
    const isTooLarge = file.size > largest
    setFault(isTooLarge ? tooLarge : '')
    if (isTooLarge) return
    try {
      await send(file)
    } catch (problem) {
      setFault(problem instanceof Error ? problem.message : w.errors.away)
    }
  }
  return { fault, bring: (file: File) => void bring(file) }
}
