import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, body } from '../../api/client'
import { w } from '../../words'
import { type NarrowingSearch, narrowingOf, type Part } from './narrowing'

/** How many photos each choice would find; asked apart from the photos, so that those never wait for it. */
export function useCounts(search: NarrowingSearch, wanted: boolean) {
  const query = narrowingOf(search)
  const counts = useQuery({
    queryKey: ['sheet', 'counts', query],
    queryFn: () => body(api.GET('/api/photos/counts', { params: { query } }), w.errors.away),
    placeholderData: keepPreviousData,
    enabled: wanted,
  }).data
  const of = (kind: Part['kind']) => counts?.parts.find((part) => part.kind === kind)?.choices ?? []
  return {
    of,
    nameOf: (part: Part, choice: string) => of(part.kind).find((c) => c.choice === choice)?.name,
  }
}
