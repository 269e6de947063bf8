import { useQueryClient } from '@tanstack/react-query'
import { useRef } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'
import { refresh } from '../shell/refresh'
import { type Kept, PartlyWritten, useSaved } from '../shell/useSaved'

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

const writeList = async (list: string, value: PriceList, version: number) => {
  const params = { path: { list }, header: { 'If-Match': version } }
  return (await body(api.PUT('/api/prices/{list}', { params, body: value }), w.errors.away)).seen
}

/** Options that a list was refused for, by their ids. */
const refusedOf = (problem: unknown, value: PriceList) =>
  problem instanceof ApiProblem ? value.options.filter((o) => problem.fields[o.id]).map((o) => o.id) : []

/** Writes a list; options that are refused stay as they were, and keep nothing else from being written. */
async function writeSound(list: string, value: PriceList, version: number, was: PriceList) {
  try {
    return await writeList(list, value, version)
  } catch (problem) {
    const refused = refusedOf(problem, value)
    const options = value.options.flatMap((o) =>
      refused.includes(o.id) ? was.options.filter((before) => before.id === o.id) : [o],
    )
    const sound = { ...value, options }
    // What is the same as before needs no writing.
    if (refused.length === 0 || JSON.stringify(sound) === JSON.stringify(was)) throw problem
    throw new PartlyWritten(await writeList(list, sound, version), problem)
  }
}

const kept = (list: string, was: () => PriceList): Kept<Api['PriceListSeen'], PriceList> => ({
  key: keyOf(list),
  value: (seen) => seen.list,
  version: (seen) => seen.version,
  read: () => readList(list),
  write: (value, version) => writeSound(list, value, version, was()),
  after: (client) => {
    for (const key of ['prices', 'fit']) void client.invalidateQueries({ queryKey: [key] })
  },
  pause: 500,
})

/** A price list while it is worked on. */
export function usePriceList(seen: Api['PriceListSeen']) {
  const written = useRef(seen.list)
  written.current = seen.list
  const { value, problem, change, ...rest } = useSaved(
    seen,
    kept(seen.id, () => written.current),
  )
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
