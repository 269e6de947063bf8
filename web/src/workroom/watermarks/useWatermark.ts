import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'
import { tellDone } from '../shell/news'
import { refresh } from '../shell/refresh'

export type Watermark = Api['Watermark']

const read = () => body(api.GET('/api/watermark'), w.errors.away)
export const asRead = { queryKey: ['watermark'], queryFn: read }

const same = (a: Watermark, b: Watermark) => JSON.stringify(a) === JSON.stringify(b)

/** The watermark while somebody tries it: visitors have it when it is said so, for each other one has all its pictures made anew. */
export function useWatermark(shown: Api['WatermarkShown']) {
  const client = useQueryClient()
  const [tried, setTried] = useState<{ over: number; watermark: Watermark } | null>(null)
  const wanted = tried?.watermark ?? shown.watermark
  const isChanged = tried !== null && !same(tried.watermark, shown.watermark)
  const use = useMutation({
    mutationFn: () =>
      body(
        api.PUT('/api/watermark', {
          params: { header: { 'If-Match': tried?.over ?? shown.edited } },
          body: wanted,
        }),
        w.errors.away,
      ),
    onSuccess: ({ watermark, done }) => {
      client.setQueryData(asRead.queryKey, watermark)
      setTried(null)
      refresh(client)
      tellDone(w.watermark.used, done)
    },
    // Somebody else may have changed it meanwhile: then that is seen.
    onError: () => void client.invalidateQueries({ queryKey: asRead.queryKey }),
  })
  return {
    wanted,
    problem: use.error instanceof ApiProblem && use.error.kind === 'stale' ? '' : (use.error?.message ?? ''),
    isChanged,
    isNothing: wanted.kind === 'words' && wanted.words.trim() === '',
    /** It is to be a picture, and none was brought yet. */
    lacksPicture: wanted.kind === 'picture' && wanted.picture === null,
    /** Somebody else has changed it since this one was begun. */
    isStale: isChanged && tried.over !== shown.edited,
    use,
    change(next: Partial<Watermark>) {
      use.reset()
      setTried((t) => ({
        over: t?.over ?? shown.edited,
        watermark: { ...(t?.watermark ?? shown.watermark), ...next },
      }))
    },
    back: () => setTried(null),
    overwrite: () => setTried((t) => t && { ...t, over: shown.edited }),
  }
}
