import { useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { AlbumChoice } from '../shell/AlbumChoice'
import { useAct } from '../shell/data'
import { tell } from '../shell/news'
import { Heading } from '../shell/Station'
import { Sketch } from './Sketch'

type Offer = Api['StarterOffer']

/** Pages laid out ready to begin from, each shown with the albums that would stand on it. */
export function StartersStation() {
  const starters = useQuery({
    queryKey: ['starters'],
    queryFn: async () => (await body(api.GET('/api/starters'), w.errors.away)).starters,
  })
  if (starters.error && !starters.data) return <p className="p-10">{starters.error.message}</p>
  if (!starters.data) return null
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.starters.title} lead={w.starters.lead} />
      {starters.data.every((s) => s.albums.length === 0) && (
        <p className="mt-4 font-semibold">{w.starters.empty}</p>
      )}
      <ul className="mt-7 grid max-w-[76rem] grid-cols-3 gap-x-8 gap-y-10 max-xl:grid-cols-2">
        {starters.data.map((offer) => (
          <OneStarter key={offer.starter} matched={offer} />
        ))}
      </ul>
    </div>
  )
}

/** One starter: what it would look like, what it is for, and whose photos stand on it. */
function OneStarter({ matched }: { matched: Offer }) {
  const [chosen, setChosen] = useState<string[] | null>(null)
  const go = useNavigate()
  const { starter } = matched
  const otherwise = useQuery({
    queryKey: ['starters', starter, chosen],
    queryFn: () =>
      body(api.POST('/api/starters/offer', { body: { starter, albums: chosen ?? [] } }), w.errors.away),
    enabled: chosen !== null,
    // What is shown stays until the other is there.
    placeholderData: (before) => before,
  }).data
  const offer = (chosen && otherwise) ?? matched
  const albums = chosen ?? matched.albums
  const make = useAct(
    () => body(api.POST('/api/starters', { body: { starter, albums } }), w.errors.away),
    (page) => {
      tell({ text: w.starters[starter === 'clubHome' ? 'home' : 'made'](page.draft.title) })
      void go({ to: '/workroom/pages/$page', params: { page: page.id } })
    },
  )
  const name = w.starters.names[starter]
  return (
    <li aria-label={name} className="flex flex-col">
      <Sketch starter={starter} pictures={offer.pictures} title={offer.title} />
      <h2 className="mt-3 font-display text-lead font-semibold">{name}</h2>
      <p className="mt-0.5 text-small text-quiet">{w.starters.says[starter]}</p>
      <Places offer={matched} albums={albums} onChoose={setChosen} />
      <p className="mt-auto pt-3">
        <Button
          disabled={make.isPending}
          onClick={() => make.mutate(undefined)}
          aria-label={`${w.starters.make}: ${name}`}
        >
          {w.starters.make}
        </Button>
      </p>
    </li>
  )
}

/** So many albums are named from the start. */
const few = 4

/** Which albums stand in its places, read as a sentence; where there is one, another takes its place. */
function Places({
  offer: { most, starter },
  albums,
  onChoose,
}: {
  offer: Offer
  albums: string[]
  onChoose: (albums: string[]) => void
}) {
  const [whole, setWhole] = useState(false)
  const rest = whole ? [] : albums.slice(few)
  return (
    <p className="settings mt-2 flex flex-wrap items-baseline gap-x-2.5 gap-y-1 text-small">
      <span>{starter === 'contact' ? w.starters.photoOf : w.starters.of}</span>
      {albums.length === 0 && <span className="text-quiet">{w.starters.none}</span>}
      <AlbumChoice
        albums={albums.slice(0, albums.length - rest.length)}
        most={rest.length > 0 ? 0 : most === 1 ? 2 : most}
        onSay={(said) => onChoose([...said, ...rest].slice(-most))}
      />
      {rest.length > 0 && (
        <Button look="word" aria-expanded={false} onClick={() => setWhole(true)}>
          {w.starters.others(rest.length)}
        </Button>
      )}
    </p>
  )
}
