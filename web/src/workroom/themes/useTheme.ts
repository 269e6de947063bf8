import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { type Kept, useSaved } from '../shell/useSaved'

export type Theme = Api['Theme']

const none = { ground: null, text: null, accent: null, line: null }
/** Nothing is said at a level: all is as at the level above. */
export const nothing: Api['LookChange'] = {
  light: none,
  dark: none,
  headings: null,
  words: null,
  corners: null,
  choices: null,
  edge: null,
  gap: null,
  shadow: null,
  viewer: null,
}

/** Whether something is said at a level. */
export const saysSomething = ({ light, dark, ...rest }: Api['LookChange']) =>
  [light, dark, rest].some((said) => Object.values(said).some((value) => value !== null))

const read = () => body(api.GET('/api/theme'), w.errors.away)
export const asRead = { queryKey: ['theme'], queryFn: read }

const over = (version: number) => ({ params: { header: { 'If-Match': version } } })
const kept: Kept<Api['SiteTheme'], Theme> = {
  key: asRead.queryKey,
  value: (site) => site.opened.draft,
  version: (site) => site.opened.edited,
  read,
  write: async (theme, version) =>
    (await body(api.PUT('/api/theme', { ...over(version), body: theme }), w.errors.away)).theme,
  pause: 300,
}

/** How the site is to look, while somebody works on it. */
export function useTheme(site: Api['SiteTheme']) {
  const { value: theme, problem, change, afterwards, ...rest } = useSaved(site, kept)
  return {
    ...rest,
    theme,
    problem: problem?.message ?? '',
    change: (next: Partial<Theme>) => change((latest) => ({ ...latest, ...next })),
    publish: () =>
      afterwards(
        async (version) =>
          (await body(api.POST('/api/theme/publishing', over(version)), w.errors.away)).theme,
      ),
  }
}
