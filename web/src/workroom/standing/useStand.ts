import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'

const away = w.errors.away

export type Standing = Api['AlbumStanding']

/** An album as far as its standing is said anew. */
export type Stands = { id: string; workingName: string; standing: Standing; version: number }

/** Says where an album stands; what is not said stays as it is. */
export function useStand() {
  return useAct(
    ({ album, next }: { album: Stands; next: Partial<Standing>; told?: string }) =>
      body(
        api.PUT('/api/albums/{album}/standing', {
          params: { path: { album: album.id }, header: { 'If-Match': album.version } },
          body: { ...album.standing, ...next },
        }),
        away,
      ),
    ({ done }, { told }) => tellDone(told ?? w.standing.said, done),
    'standing',
  )
}

/** The categories of an album with one more. */
export const withCategory = (standing: Standing, category: string) => [
  ...standing.categories.filter((c) => c.category !== category),
  { category, putFirst: false },
]

/** The same without one. */
export const withoutCategory = (standing: Standing, category: string) =>
  standing.categories.filter((c) => c.category !== category)
