import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { LinkForm } from './LinkForm'
import { LinkRow } from './LinkRow'
import { OfferedCategories } from './OfferedCategories'

/** Contribution links, made and looked after, and where members may put albums of their own. */
export function Links() {
  const [making, setMaking] = useState(false)
  const { data, error } = useQuery({
    queryKey: ['contribution-links'],
    queryFn: () => body(api.GET('/api/contribution-links'), w.errors.away),
  })
  if (!data) return error ? <p className="pt-6">{error.message}</p> : null
  return (
    <div className="mt-5 grid grid-cols-[minmax(0,1fr)_18rem] gap-x-14 gap-y-10 max-lg:grid-cols-1">
      <section aria-label={w.contributions.tabs.links} className="min-w-0">
        {making ? (
          <LinkForm most={data.mostPhotos} onDone={() => setMaking(false)} />
        ) : (
          <Button look={data.links.length === 0 ? 'next' : 'plain'} onClick={() => setMaking(true)}>
            {w.contributionLinks.make}
          </Button>
        )}
        {data.links.length === 0 && !making && <p className="mt-5 text-quiet">{w.contributionLinks.none}</p>}
        <ul className="mt-6">
          {data.links.map((link) => (
            <LinkRow key={link.id} link={link} most={data.mostPhotos} />
          ))}
        </ul>
      </section>
      <OfferedCategories />
    </div>
  )
}
