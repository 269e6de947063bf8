import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { tell } from '../shell/news'
import { refresh } from '../shell/refresh'
import { type Kept, useSaved } from '../shell/useSaved'

export type Front = Api['Front']

const read = () => body(api.GET('/api/site'), w.errors.away)
export const asRead = { queryKey: ['site'], queryFn: read }
export const firstHour = {
  queryKey: ['first-hour'],
  queryFn: () => body(api.GET('/api/site/first-hour'), w.errors.away),
}

const kept: Kept<Api['OpenedFront'], Front> = {
  key: asRead.queryKey,
  value: (seen) => seen.front,
  version: (seen) => seen.edited,
  read,
  write: async (front, version) =>
    (
      await body(
        api.PUT('/api/site', { params: { header: { 'If-Match': version } }, body: front }),
        w.errors.away,
      )
    ).front,
  pause: 500,
}

/** The site's front while somebody works on it. */
export function useFront(seen: Api['OpenedFront']) {
  const client = useQueryClient()
  const { value: front, change, problem, ...rest } = useSaved(seen, kept)
  const before = useRef(seen)
  useEffect(() => {
    const { edited, front } = before.current
    if (edited === seen.edited) return
    before.current = seen
    if (front.isOpen !== seen.front.isOpen)
      tell({ text: seen.front.isOpen ? w.opening.opened : w.opening.closed })
    // Its name stands in the contents, and who sees what depends on whether it is open.
    void client.invalidateQueries({ queryKey: ['session'] })
    refresh(client)
  }, [seen, client])
  return {
    ...rest,
    front,
    faults: problem?.fields ?? {},
    problem: problem && Object.keys(problem.fields).length === 0 ? problem.message : '',
    say: (next: Partial<Front>) => change((latest) => ({ ...latest, ...next })),
  }
}

export type WorkedFront = ReturnType<typeof useFront>
