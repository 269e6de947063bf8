import { api, body } from '../../api/client'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { hand } from '../shell/hand'
import { tellDone } from '../shell/news'

export type Decision = 'keep' | 'doubt' | 'leave_out' | ''
export type Decided = { decision: Decision } | { rating: number }

/** The keys of deciding: three that lie side by side, and the digits. */
export const decisionKeys = { j: 'doubt', k: 'keep', l: 'leave_out' } as const
export const ratings = [0, 1, 2, 3, 4, 5] as const

/** Decides about a photo, or without one about all in hand, or rates them; told at the foot, where it is taken back. */
export function useDecide() {
  const decide = useAct(
    async ({ reach, what }: { reach: ReturnType<typeof hand.reach>; reached: number; what: Decided }) =>
      body(api.POST('/api/photos/decision', { body: { ...(await reach), ...what } }), w.errors.away),
    (done, { reached, what }) =>
      tellDone(
        'rating' in what ? w.decide.rated(reached, what.rating) : w.decide.decided[what.decision](reached),
        done,
      ),
    'decide',
  )
  // What is meant is what is in hand when the key is pressed, however long those before it take, as far as it can be named photo by photo.
  return {
    mutate: ({ photo, ...what }: { photo?: string } & Decided) =>
      decide.mutate({
        reach: photo ? Promise.resolve({ photos: [photo] }) : hand.reach(),
        reached: photo ? 1 : hand.count,
        what,
      }),
  }
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
