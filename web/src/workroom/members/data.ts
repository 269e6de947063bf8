import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'

export type Member = Api['MemberLine']

const window = 100

/** Members by name, a window after the other. */
export function useMembers(q: string, group: string | null) {
  return useInfiniteQuery({
    queryKey: ['members', q, group],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/members', {
          params: { query: { ...(q && { q }), ...(group && { group }), from: pageParam, count: window } },
        }),
        w.errors.away,
      ),
    getNextPageParam: (last, pages) => {
      const read = pages.reduce((n, p) => n + p.members.length, 0)
      return last.members.length > 0 && read < last.found ? read : undefined
    },
    placeholderData: keepPreviousData,
  })
}

/** How visitors become members, and who asked. */
export function useWishes() {
  return useQuery({
    queryKey: ['members', 'wishes'],
    queryFn: () => body(api.GET('/api/members/wishes'), w.errors.away),
  })
}
