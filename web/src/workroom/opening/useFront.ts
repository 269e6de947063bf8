import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { tell } from '../shell/news'
import { refresh } from '../shell/refresh'
import { type Kept, useSaved } from '../shell/useSaved'

type Front = Api['Front']

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
  after: (client, { front }, before) => {
    if (before && before.front.isOpen !== front.isOpen)
      tell({ text: front.isOpen ? w.opening.opened : w.opening.closed })
    // Its name stands in the contents, and who sees what depends on whether it is open.
    void client.invalidateQueries({ queryKey: ['session'] })
    refresh(client)
  },
  pause: 500,
}

/** The site's front while somebody works on it. */
export function useFront(seen: Api['OpenedFront']) {
  const { value: front, change, problem, ...rest } = useSaved(seen, kept)
  return {
    ...rest,
    front,
    faults: problem?.fields ?? {},
    problem: problem && Object.keys(problem.fields).length === 0 ? problem.message : '',
    say: (next: Partial<Front>) => change((latest) => ({ ...latest, ...next })),
  }
}

export type WorkedFront = ReturnType<typeof useFront>

/** Says what cannot be seen of a first hour: whether its path lies on the desk, and that the site looks as it is to look. */
export const sayFirstHour = (isOn: boolean, isDressed = false) =>
  body(api.PUT('/api/site/first-hour', { body: { isOn, isDressed } }), w.errors.away)
