import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { type Kept, useSaved } from '../shell/useSaved'
import { entries, type Line, lines } from './menu'

const kept: Kept<Api['OpenedMenu'], Line[]> = {
  key: ['menu'],
  value: (menu) => lines(menu.entries),
  version: (menu) => menu.edited,
  read: () => body(api.GET('/api/menu'), w.errors.away),
  write: async (value, version) => {
    const params = { header: { 'If-Match': version } }
    return (await body(api.PUT('/api/menu', { params, body: { entries: entries(value) } }), w.errors.away))
      .menu
  },
  pause: 600,
}

/** The menu while it is arranged. */
export function useMenu(menu: Api['OpenedMenu']) {
  const { value, problem, change, ...rest } = useSaved(menu, kept)
  const fields = problem?.fields ?? {}
  const faults: Record<string, string> =
    problem && Object.keys(fields).length === 0 ? { entries: problem.message } : fields
  return { ...rest, all: value, faults, change: (next: Line[]) => change(() => next) }
}
