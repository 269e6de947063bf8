import { useSyncExternalStore } from 'react'

/** Short news at the foot of the contents, with a way to take the act back. */
export type News = { text: string; undo?: () => Promise<unknown>; bad?: boolean }

const listeners = new Set<() => void>()
let latest: News | null = null

export function tell(news: News | null) {
  latest = news
  for (const listener of listeners) listener()
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
