import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { moment } from '../shell/format'
import { tellDone } from '../shell/news'
import { useSaying } from '../shell/useSaying'
import { AskForFavourites } from './AskForFavourites'

type Offers = Api['AlbumOffers']

const forms = (['nothing', 'large', 'full'] as const).map((form) => [form, w.offers.forms[form]] as const)

/** What visitors may do with an album's photos besides seeing them, as a sentence, and who has chosen among them. */
export function AlbumOffers({ album }: { album: string }) {
  const offers = useQuery({
    queryKey: ['offers', album],
    queryFn: () =>
      body(api.GET('/api/albums/{album}/offers', { params: { path: { album } } }), w.errors.away),
  }).data
  const chosen = useQuery({
    queryKey: ['choices', 'of', album],
    queryFn: () =>
      body(api.GET('/api/albums/{album}/choices', { params: { path: { album } } }), w.errors.away),
  }).data
  const say = useSaying(
    offers,
    (next, was) =>
      body(
        api.PUT('/api/albums/{album}/offers', { params: { path: { album } }, body: { offers: next, was } }),
        w.errors.away,
      ),
    (done) => tellDone(w.offers.said, done),
    'offers',
  )
  if (!offers) return null
  const put = (next: Partial<Offers>) => say((was) => ({ ...was, ...next }))
  return (
    <section
      aria-label={w.offers.label}
      className="mb-3 flex flex-wrap items-baseline gap-x-1.5 gap-y-1 text-small"
    >
      <span>{w.offers.everyone}</span>
      <WordSelect
        label={w.offers.everyoneLabel}
        value={offers.saves}
        choices={forms}
        onChoose={(saves) => put({ saves })}
      />
      <span className="-ml-1.5">{w.offers.known}</span>
      <WordSelect
        label={w.offers.knownLabel}
        value={offers.knownSave}
        choices={forms}
        onChoose={(knownSave) => put({ knownSave })}
      />
      <AskForFavourites
        key={JSON.stringify(offers.choosing)}
        choosing={offers.choosing}
        says={
          offers.choosing
            ? w.offers.asked(offers.choosing.most, offers.choosing.until && moment(offers.choosing.until))
            : w.offers.notAsked
        }
        onSay={(choosing) => put({ choosing })}
      />
      {chosen && chosen.all > 0 && (
        <span className="ml-4">
          {w.favourites.inAlbum(chosen.all, chosen.sent)}{' '}
          <Link
            to="/workroom/favourites"
            search={{ album }}
            className="underline decoration-strong-line decoration-1 underline-offset-4"
          >
            {w.favourites.look}
          </Link>
        </span>
      )}
    </section>
  )
}
