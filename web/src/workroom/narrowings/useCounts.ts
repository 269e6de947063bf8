import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, body } from '../../api/client'
import { w } from '../../words'
import { type NarrowingSearch, narrowingOf, type Part } from './narrowing'

/** How many photos each choice would find; asked apart from the photos, so that those never wait for it. `inBin` counts what lies in the bin. */
export function useCounts(search: NarrowingSearch, wanted: boolean, inBin = false) {
  const query = narrowingOf(search)
  const counts = useQuery({
    queryKey: ['sheet', 'counts', inBin, query],
    queryFn: () =>
      body(api.GET(inBin ? '/api/bin/counts' : '/api/photos/counts', { params: { query } }), w.errors.away),
    placeholderData: keepPreviousData,
    enabled: wanted,
  }).data
  const of = (kind: Part['kind']) => counts?.parts.find((part) => part.kind === kind)?.choices ?? []
  return {
    of,
    /** So many photos in the bin would be found besides. */
    inBin: counts?.inBin ?? 0,
    nameOf: (part: Part, choice: string) => of(part.kind).find((c) => c.choice === choice)?.name,
  }
}
