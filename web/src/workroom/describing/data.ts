import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api, body } from '../../api/client'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { hand, useHand } from '../shell/hand'
import { tellDone } from '../shell/news'
import type { Change } from './pattern'

const away = w.errors.away

/** What the photos in hand have in common. */
export function useSummary() {
  const { revision, count } = useHand()
  return useQuery({
    queryKey: ['summary', revision],
    queryFn: async () => body(api.POST('/api/words/summary', { body: await hand.reach() }), away),
    placeholderData: keepPreviousData,
    enabled: count > 0,
  })
}

/** The plate of the first in hand, by which the others go. */
export function useFirst(id: string | undefined) {
  return useQuery({
    queryKey: ['plate', id],
    queryFn: () => body(api.GET('/api/photos/{photo}', { params: { path: { photo: id ?? '' } } }), away),
    enabled: id !== undefined,
  }).data
}

/** What changes would come to, asked for once one stops typing. */
export function usePreview(changes: readonly Change[] | null) {
  const { revision, count } = useHand()
  const said = useSettled(changes === null ? '' : JSON.stringify(changes))
  return useQuery({
    queryKey: ['preview', revision, said],
    queryFn: async () =>
      body(
        api.POST('/api/words/preview', {
          body: { ...(await hand.reach()), changes: JSON.parse(said) as Change[] },
        }),
        away,
      ),
    placeholderData: (before) => (said === '' ? undefined : before),
    enabled: said !== '' && count > 0,
    retry: false,
  })
}

function useSettled(text: string) {
  const [settled, settle] = useState(text)
  useEffect(() => {
    const timer = setTimeout(() => settle(text), 160)
    return () => clearTimeout(timer)
  }, [text])
  return settled
}

/** Changes the words of all photos in hand; told at the foot, where it is taken back. */
export function useDescribe() {
  return useAct(
    async (changes: readonly Change[]) =>
      body(api.POST('/api/words', { body: { ...(await hand.reach()), changes: [...changes] } }), away),
    (out) => tellDone(w.describing.done(out.done.photos, out.cut, out.refused), out.done),
  )
}

/** Says what a rule would change, or null while it does not say enough yet. */
export type RuleProps = { onSay: (changes: readonly Change[] | null) => void }

/** Tells the rule's change whenever what it says changes. */
export function useSaid(onSay: RuleProps['onSay'], changes: readonly Change[] | null) {
  const said = changes === null || changes.length === 0 ? '' : JSON.stringify(changes)
  useEffect(() => onSay(said === '' ? null : (JSON.parse(said) as Change[])), [said, onSay])
}

/** Local times without a zone, as seconds. */
export const seconds = (local: string) =>
  Date.parse(`${local.length === 16 ? `${local}:00` : local.slice(0, 19)}Z`) / 1000
