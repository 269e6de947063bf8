import { useSyncExternalStore } from 'react'
import type { Api } from '../../api/client'
import { w } from '../../words'

/** Short news at the foot of the contents. An act can be taken back from there; the server does it. */
export type News = { text: string; act?: string | null; bad?: boolean }

const listeners = new Set<() => void>()
let latest: News | null = null

export function tell(news: News | null) {
  latest = news
  for (const listener of listeners) listener()
}

/** Says what an act did, with a way to take it back; and which pages lack something now. */
export function tellDone(text: string, done: Api['Done']) {
  const { titles, pages } = done.lacking
  tell({ text: pages > 0 ? `${text} ${w.contents.lacking(titles, pages)}` : text, act: done.act })
}

/** Says what a failed act has to say. */
export function tellProblem(problem: unknown) {
  tell({ text: problem instanceof Error ? problem.message : String(problem), bad: true })
}

export function useNews() {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => latest,
  )
}
