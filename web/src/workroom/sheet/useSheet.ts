import { useQueries } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { type NarrowingSearch, narrowingOf } from '../narrowings/narrowing'

export const sorts = ['taken', 'arrived', 'name', 'title', 'rating', 'views', 'place'] as const

/** Which photos a sheet shows and in which order, as the address says it. */
export type SheetQuery = NarrowingSearch & {
  sort?: (typeof sorts)[number] | undefined
  reversed?: boolean | undefined
}

/** Only what narrows or sorts, so that other parts of an address do not count as another sheet. */
export function sheetQuery(search: SheetQuery): SheetQuery {
  return {
    ...narrowingOf(search),
    ...(search.sort && { sort: search.sort }),
    ...(search.reversed && { reversed: true }),
  }
}

/** Photos a window, until the server has said how many. */
const usual = 120

export const windowOf = (query: SheetQuery, n: number, step = usual) => ({
  queryKey: ['sheet', 'window', query, n],
  queryFn: () =>
    body(api.GET('/api/photos', { params: { query: { ...query, at: n * step } } }), w.errors.away),
})

/** Photos of a sheet, window by window: the first at once, others when they come into view. */
export function useSheet(query: SheetQuery, visible: { first: number; last: number }, arriving: boolean) {
  const known = useRef({ total: 0, step: usual })
  const { step } = known.current
  const wanted = useSettled(Math.floor(visible.first / step), Math.floor(visible.last / step))
  const windows = useQueries({
    queries: wanted.map((n) => ({
      ...windowOf(query, n, step),
      refetchInterval: arriving ? 2500 : (false as const),
      staleTime: 30_000,
    })),
  })
  const said = windows.find((q) => q.data)?.data
  if (said) known.current = { total: said.total, step: said.step }
  function at(index: number): Api['SheetPhoto'] | undefined {
    const place = wanted.indexOf(Math.floor(index / step))
    return place < 0 ? undefined : windows[place]?.data?.photos[index % step]
  }
  return {
    total: known.current.total,
    at,
    failed: windows.find((q) => q.error)?.error,
    known: said !== undefined,
  }
}

/** The windows to ask for; while one scrolls fast, only those one comes to rest on. */
function useSettled(first: number, last: number) {
  const [range, setRange] = useState({ first, last })
  useEffect(() => {
    const timer = setTimeout(() => setRange({ first, last }), 45)
    return () => clearTimeout(timer)
  }, [first, last])
  return Array.from({ length: range.last - range.first + 1 }, (_, i) => range.first + i)
}

/** The photos between two of a sheet, both counted in. */
export async function between(query: SheetQuery, one: string, other: string) {
  return (
    await body(api.GET('/api/photos/between', { params: { query: { ...query, one, other } } }), w.errors.away)
  ).photos
}
