import { api, body } from '../../api/client'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'

export type Decision = 'keep' | 'doubt' | 'leave_out' | ''
export type Decided = { decision: Decision } | { rating: number }

/** The keys of deciding: three that lie side by side, and the digits. */
export const decisionKeys = { j: 'doubt', k: 'keep', l: 'leave_out' } as const
export const ratings = [0, 1, 2, 3, 4, 5] as const

/** Decides about photos, or rates them; told at the foot, where it is taken back. */
export function useDecide() {
  return useAct(
    ({ photos, ...what }: { photos: readonly string[] } & Decided) =>
      body(api.POST('/api/photos/decision', { body: { photos: [...photos], ...what } }), w.errors.away),
    (done, { photos, ...what }) =>
      tellDone(
        'rating' in what
          ? w.decide.rated(photos.length, what.rating)
          : w.decide.decided[what.decision](photos.length),
        done,
      ),
  )
}

/** What each key of deciding does. */
export function decidingKeys(decide: (what: Decided) => void): Record<string, () => void> {
  return {
    ...Object.fromEntries(
      Object.entries(decisionKeys).map(([key, decision]) => [key, () => decide({ decision })]),
    ),
    ...Object.fromEntries(ratings.map((rating) => [String(rating), () => decide({ rating })])),
  }
}
