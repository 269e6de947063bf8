import { keepPreviousData, useQueries, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'

/** Which photos a sheet shows and in which order, as the address says it. */
export type SheetQuery = {
  q?: string | undefined
  album?: string | undefined
  tag?: string | undefined
  category?: string | undefined
  intake?: string | undefined
  without?: 'title' | 'alt' | 'album' | 'tag' | 'use' | undefined
  sort?: 'taken' | 'arrived' | 'name' | 'place' | undefined
  reversed?: boolean | undefined
}

/** Only what narrows or sorts, so that other parts of an address do not count as another sheet. */
export function sheetQuery(search: SheetQuery): SheetQuery {
  const { q, album, tag, category, intake, without, sort, reversed } = search
  return { q, album, tag, category, intake, without, sort, reversed }
}

/** Photos of a sheet, window by window: the first at once, others when they come into view. */
export function useSheet(query: SheetQuery, visible: { first: number; last: number }, arriving: boolean) {
  const map = useQuery({
    queryKey: ['sheet', 'map', query],
    queryFn: () => body(api.GET('/api/photos/map', { params: { query } }), w.errors.away),
    placeholderData: keepPreviousData,
    refetchInterval: arriving ? 2500 : false,
  })
  const step = map.data?.step ?? 120
  const wanted = useSettled(Math.floor(visible.first / step), Math.floor(visible.last / step))
  const windows = useQueries({
    queries: wanted.map((n) => {
      const from = n === 0 ? undefined : map.data?.keys[n]
      return {
        queryKey: ['sheet', 'window', query, n, from],
        queryFn: () => body(api.GET('/api/photos', { params: { query: { ...query, from } } }), w.errors.away),
        enabled: n === 0 || from !== undefined,
        placeholderData: keepPreviousData,
        refetchInterval: arriving ? 2500 : (false as const),
        staleTime: 30_000,
      }
    }),
  })
  function at(index: number): Api['SheetPhoto'] | undefined {
    const place = wanted.indexOf(Math.floor(index / step))
    return place < 0 ? undefined : windows[place]?.data?.photos[index % step]
  }
  const first = windows[0]?.data?.photos.length
  return {
    total: map.data?.total ?? (wanted[0] === 0 ? (first ?? 0) : 0),
    at,
    failed: map.error ?? windows.find((q) => q.error)?.error,
    known: map.data !== undefined,
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
