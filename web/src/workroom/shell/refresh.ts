import type { QueryClient } from '@tanstack/react-query'

/** Reads everything again that photos, albums or pages may have changed. */
export function refresh(client: QueryClient) {
  for (const key of [
    'figures',
    'albums',
    'pages',
    'sheet',
    'narrowings',
    'kept-settings',
    'plate',
    'desk',
    'tags',
    'people',
    'summary',
    'categories',
    'neighbours',
    'files',
    'repeats',
    'bin',
    'history',
    'intake',
    'intakes',
    'menu',
    'theme',
    'watermark',
    'site',
    'first-hour',
    'starters',
    'comments',
    'choices',
    'contributions',
    'contribution-links',
    'offers',
    'reserves',
    'records',
    'clearance',
    'audience',
    'members',
    'groups',
  ])
    void client.invalidateQueries({ queryKey: [key] })
}
