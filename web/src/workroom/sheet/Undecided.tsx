import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { w } from '../../words'
import { type SheetQuery, sheetQuery } from './useSheet'

/** How many photos of a sheet are not decided on yet; undefined where the sheet itself says something of decisions. */
export function useUndecided(query: SheetQuery): number | undefined {
  const speaks = query.decision !== undefined || query.notDecision !== undefined
  const asked = { ...sheetQuery(query), decision: 'none' }
  return useQuery({
    queryKey: ['sheet', 'total', asked],
    queryFn: () => body(api.GET('/api/photos/total', { params: { query: asked } }), w.errors.away),
    enabled: !speaks,
  }).data?.total
}

/** How many are left to decide on, pressed to see only those. */
export function Undecided({ query }: { query: SheetQuery }) {
  const left = useUndecided(query)
  if (left === undefined) return null
  if (left === 0) return <span>{w.decide.left(0)}</span>
  return (
    <Link
      to="."
      search={(s) => ({ ...s, decision: 'none' })}
      className="underline decoration-strong-line decoration-1 underline-offset-[5px] hover:text-ink hover:decoration-ink"
    >
      {w.decide.left(left)}
    </Link>
  )
}
