import { useInfiniteQuery } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { asPlain } from '../../kit/Button'
import { w } from '../../words'
import { ShowMore } from '../shell/ShowMore'
import { Empty, Heading } from '../shell/Station'
import { ChoiceRow } from './ChoiceRow'
import { OneChoice } from './OneChoice'

/** What visitors chose where an album asked them to: who down the left, and the photos of one of them. */
export function FavouritesStation() {
  const { album, choice } = useSearch({ from: '/workroom/favourites' })
  const go = useNavigate({ from: '/workroom/favourites' })
  const list = useInfiniteQuery({
    queryKey: ['choices', 'list', album],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/choices', {
          params: { query: { ...(album && { album }), ...(pageParam && { behind: pageParam }) } },
        }),
        w.errors.away,
      ),
    getNextPageParam: (page) => (page.further ? page.choices.at(-1)?.id : undefined),
  })
  const first = list.data?.pages[0]
  if (!first) return list.error ? <p className="p-10">{list.error.message}</p> : null
  const choices = list.data?.pages.flatMap((p) => p.choices) ?? []
  // What nobody has looked at yet is looked at first.
  const open = choice ?? (choices.find((c) => c.sent && !c.isNoted) ?? choices[0])?.id
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.favourites.title}
        lead={album && choices[0] ? w.favourites.ofAlbum(choices[0].albumName) : w.favourites.lead}
        right={
          album && (
            <Link to="/workroom/favourites" className={asPlain}>
              {w.favourites.all}
            </Link>
          )
        }
      />
      {choices.length === 0 ? (
        <Empty title={w.favourites.none} lead={w.favourites.noneLead}>
          <Link to="/workroom/albums" className={asPlain}>
            {w.favourites.toAlbums}
          </Link>
        </Empty>
      ) : (
        <div className="mt-6 grid grid-cols-[19rem_minmax(0,1fr)] gap-x-12 gap-y-8 max-lg:grid-cols-1">
          <nav aria-label={w.favourites.which}>
            <ul className="border-t border-line">
              {choices.map((each) => (
                <ChoiceRow
                  key={each.id}
                  choice={each}
                  isOpen={each.id === open}
                  onOpen={() => void go({ search: { album, choice: each.id }, replace: true })}
                />
              ))}
            </ul>
            <ShowMore of={list}>{w.favourites.more}</ShowMore>
          </nav>
          {open && <OneChoice key={open} id={open} />}
        </div>
      )}
    </div>
  )
}
