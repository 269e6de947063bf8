import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useSyncExternalStore } from 'react'
import type { Api } from '../../api/client'
import { refresh } from './refresh'

const listeners = new Set<() => void>()
let live = false

function set(now: boolean) {
  if (live === now) return
  live = now
  for (const listener of listeners) listener()
}

/** Whether the server tells by itself what changes; while it does not, the figures are asked for. */
export function useLive() {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => live,
  )
}

/** Listens to the server's news (server-sent events) for as long as the workroom is open. */
export function useNewsLine(on: boolean) {
  const client = useQueryClient()
  useEffect(() => {
    if (!on || typeof EventSource === 'undefined') return
    const line = new EventSource('/api/desk/news')
    /** What the line itself said last: what is known may have been read meanwhile, and before what goes by it. */
    let told: Api['Figures'] | undefined
    line.addEventListener('open', () => set(true))
    line.addEventListener('error', () => set(false))
    line.addEventListener('figures', (e: MessageEvent<string>) => {
      const figures = JSON.parse(e.data) as Api['Figures']
      const before = told ?? client.getQueryData<Api['Figures']>(['figures'])
      told = figures
      client.setQueryData(['figures'], figures)
      // A photo counts from when it has come, and is seen from when it is ready.
      if (before && (before.photos !== figures.photos || before.waiting !== figures.waiting))
        for (const key of ['sheet', 'intakes']) void client.invalidateQueries({ queryKey: [key] })
      if (before && before.commentsWaiting !== figures.commentsWaiting)
        void client.invalidateQueries({ queryKey: ['comments'] })
      // What visitors do is no act.
      if (before && before.contributed !== figures.contributed)
        for (const key of ['contributions', 'contribution-links'])
          void client.invalidateQueries({ queryKey: [key] })
      if (before && before.orders !== figures.orders) void client.invalidateQueries({ queryKey: ['orders'] })
      if (before && before.sent !== figures.sent) void client.invalidateQueries({ queryKey: ['choices'] })
      if (before && before.asking !== figures.asking) void client.invalidateQueries({ queryKey: ['members'] })
      void client.invalidateQueries({ queryKey: ['intake'] })
      void client.invalidateQueries({ queryKey: ['desk'] })
    })
    // Somebody, perhaps in another tab, did something: what is open is read again.
    line.addEventListener('acts', () => refresh(client))
    return () => {
      line.close()
      set(false)
    }
  }, [client, on])
}
