import { useQuery } from '@tanstack/react-query'
import { useRef } from 'react'
import { api, body } from '../../api/client'
import { w } from '../../words'

const values = 256
const most = 100

/** Which of the two is being moved; the tables of all its values are then here. */
export type Axis = 'brightness' | 'contrast'

/**
 * What each of the 256 values of a colour becomes, from the server's own tables: of the tone that stands still with every value of
 * the one that moves, so that moving it asks for nothing. The one before stays until there is another.
 */
export function useTones(brightness: number, contrast: number, moving: Axis): string | null {
  const fixed = moving === 'brightness' ? { contrast } : { brightness }
  const tables = useQuery({
    queryKey: ['tones', fixed],
    queryFn: async () =>
      new Uint8Array(
        (await body(
          api.GET('/api/corrections/tones', { params: { query: fixed }, parseAs: 'arrayBuffer' }),
          w.errors.away,
        )) as unknown as ArrayBuffer,
      ),
    staleTime: Number.POSITIVE_INFINITY,
  }).data
  const before = useRef<string | null>(null)
  if (brightness === 0 && contrast === 0) before.current = null
  else if (tables) {
    const at = ((moving === 'brightness' ? brightness : contrast) + most) * values
    before.current = Array.from(tables.subarray(at, at + values), (v) => (v / 255).toFixed(5)).join(' ')
  }
  return before.current
}
