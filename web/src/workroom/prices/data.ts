import { useQueryClient } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { refresh } from '../shell/refresh'
import { type Kept, useSaved } from '../shell/useSaved'

export type PriceList = Api['PriceListSaid']
export type Option = PriceList['options'][number]
export type Kind = Option['kind']

/** Reads everything again once something was done that no act of the page did. */
export function useRefresh() {
  const client = useQueryClient()
  return () => refresh(client)
}

export const keyOf = (list: string) => ['price-list', list]

export const readList = (list: string) =>
  body(api.GET('/api/prices/{list}', { params: { path: { list } } }), w.errors.away)

const kept = (list: string): Kept<Api['PriceListSeen'], PriceList> => ({
  key: keyOf(list),
  value: (seen) => seen.list,
  version: (seen) => seen.version,
  read: () => readList(list),
  write: async (value, version) => {
    const params = { path: { list }, header: { 'If-Match': version } }
    return (await body(api.PUT('/api/prices/{list}', { params, body: value }), w.errors.away)).seen
  },
  after: (client) => {
    for (const key of ['prices', 'fit']) void client.invalidateQueries({ queryKey: [key] })
  },
  pause: 500,
})

/** A price list while it is worked on. */
export function usePriceList(seen: Api['PriceListSeen']) {
  const { value, problem, change, ...rest } = useSaved(seen, kept(seen.id))
  const fields = problem?.fields ?? {}
  return {
    ...rest,
    list: value,
    /** What is wrong with an option, by its id. */
    faults: fields,
    /** What is wrong with the whole. */
    fault:
      problem && rest.state !== 'stale' && !value.options.some((o) => fields[o.id]) ? problem.message : '',
    change,
    changeOption: (id: string, next: Partial<Option>) =>
      change((now) => ({
        ...now,
        options: now.options.map((o) => (o.id === id ? { ...o, ...next } : o)),
      })),
  }
}

/** An option as it begins. */
export const fresh = (kind: Kind): Option => ({
  id: crypto.randomUUID(),
  kind,
  name: '',
  description: '',
  group: '',
  size: '',
  edge: kind === 'wrap' ? 40 : 0,
  longestEdge: null,
  licence: '',
  downloads: null,
  days: null,
  price: '',
  cost: '',
  breaks: [],
  shapes: [],
  isOff: false,
})
