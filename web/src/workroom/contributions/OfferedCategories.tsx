import { useQuery } from '@tanstack/react-query'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Named } from '../../kit/Named'
import { w } from '../../words'
import { useAct, useCategories } from '../shell/data'
import { CategoryChoice } from '../standing/CategoryChoice'

/** Where members who send photos in may put albums of their own. */
export function OfferedCategories() {
  const known = useCategories().data ?? []
  const offered = useQuery({
    queryKey: ['contribution-links', 'categories'],
    queryFn: () => body(api.GET('/api/contributions/categories'), w.errors.away),
  }).data?.categories
  const say = useAct((categories: string[]) =>
    body(api.PUT('/api/contributions/categories', { body: { categories } }), w.errors.away),
  )
  if (!offered) return null
  const name = (id: string) => known.find((c) => c.id === id)?.name ?? ''
  return (
    <section aria-label={w.contributionLinks.offered} className="min-w-0">
      <h2 className="text-lead">{w.contributionLinks.offered}</h2>
      <p className="mt-1 text-small text-quiet">{w.contributionLinks.offeredLead}</p>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        {offered.length === 0 && <span>{w.contributionLinks.offeredNone}</span>}
        {offered.map((id) => (
          <Named
            key={id}
            name={name(id)}
            label={w.contributionLinks.offerOff(name(id))}
            onRemove={() => say.mutate(offered.filter((c) => c !== id))}
          />
        ))}
        <CategoryChoice
          trigger={<Button look="word">{w.contributionLinks.offer}</Button>}
          without={offered}
          onChoose={({ id }) => say.mutate([...offered, id])}
        />
      </p>
    </section>
  )
}
