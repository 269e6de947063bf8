import { api, body } from '../../api/client'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'

/** Makes tags one: whatever had the others has the one that stays. */
export function useMerge(then?: () => void) {
  return useAct(
    (tags: { into: { id: string; name: string }; gone: readonly { id: string; name: string }[] }) =>
      body(
        api.POST('/api/tags/{tag}/merging', {
          params: { path: { tag: tags.into.id } },
          body: { others: tags.gone.map((t) => t.id) },
        }),
        w.errors.away,
      ),
    (done, tags) => {
      tellDone(
        w.tags.merged(
          tags.gone.map((t) => t.name),
          tags.into.name,
          done.photos,
        ),
        done,
      )
      then?.()
    },
  )
}
