import { useQuery } from '@tanstack/react-query'
import { type Api, api, body } from '../../../api/client'
import { w } from '../../../words'

/** What an audience is of. */
export type AudienceOf = { kind: 'page' | 'album' | 'category' | 'photo'; id: string }

export type Audience = Api['Audience']

export type Chosen = Api['Chosen']

export const pathOf = (of: AudienceOf) => ({ params: { path: { kind: of.kind, thing: of.id } } })

/** Who may see a thing as it is said of the thing itself, and what lets visitors in. */
export function useAudience(of: AudienceOf) {
  return useQuery({
    queryKey: ['audience', of.kind, of.id],
    queryFn: () => body(api.GET('/api/audiences/{kind}/{thing}', pathOf(of)), w.errors.away),
  })
}

/** Who would gain and who would lose it. */
export function useForecast(of: AudienceOf, audience: Audience, was: Audience) {
  return useQuery({
    queryKey: ['audience', of.kind, of.id, 'forecast', audience, was],
    queryFn: () =>
      body(
        api.POST('/api/audiences/{kind}/{thing}/forecast', { ...pathOf(of), body: { audience, was } }),
        w.errors.away,
      ),
    retry: false,
  })
}

/** What a field for a day and a time says: a moment as everybody has it; nothing for nothing. */
export const momentOf = (field: string) => (field ? new Date(field).toISOString() : null)

/** A moment as such a field has it, by the clock here. */
export function fieldOf(moment: string | null | undefined) {
  if (!moment) return ''
  const at = new Date(moment)
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16)
}
