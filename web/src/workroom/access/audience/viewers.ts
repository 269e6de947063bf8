import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query'
import { api, body } from '../../../api/client'
import { w } from '../../../words'
import type { AudienceOf } from './data'

const window = 50

/** Who can see a thing, or cannot: those of its members who are asked for, a window after the other. */
export function useViewers(of: AudienceOf, q: string, not: boolean) {
  return useInfiniteQuery({
    queryKey: ['audience', of.kind, of.id, 'viewers', q, not],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/viewers/{kind}/{thing}', {
          params: {
            path: { kind: of.kind, thing: of.id },
            query: { ...(q && { q }), not, from: pageParam, count: window },
          },
        }),
        w.errors.away,
      ),
    getNextPageParam: (last, pages) => {
      const read = pages.reduce((n, p) => n + p.window.length, 0)
      return last.window.length > 0 && read < last.found ? read : undefined
    },
    placeholderData: keepPreviousData,
  })
}

/** What a member can see of all that is not for everyone. */
export function useMemberSight(member: string) {
  return useInfiniteQuery({
    queryKey: ['members', 'sight', member],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/members/{member}/sight', {
          params: { path: { member }, query: { from: pageParam, count: window } },
        }),
        w.errors.away,
      ),
    getNextPageParam: (last, pages) => {
      const read = pages.reduce((n, p) => n + p.things.length, 0)
      return last.things.length > 0 && read < last.all ? read : undefined
    },
  })
}
