import { useInfiniteQuery } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { asPlain } from '../../kit/Button'
import { w } from '../../words'
import { ListAndOne } from '../shell/ListAndOne'
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
        <ListAndOne
          label={w.favourites.which}
          of={list}
          more={w.favourites.more}
          rows={choices.map((each) => (
            <ChoiceRow
              key={each.id}
              choice={each}
              isOpen={each.id === open}
              onOpen={() => void go({ search: { album, choice: each.id }, replace: true })}
            />
          ))}
        >
          {open && <OneChoice key={open} id={open} />}
        </ListAndOne>
      )}
    </div>
  )
}
