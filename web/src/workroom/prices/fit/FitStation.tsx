import { useInfiniteQuery } from '@tanstack/react-query'
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { api, body } from '../../../api/client'
import { asWord, Choice } from '../../../kit/Button'
import { w } from '../../../words'
import { ShowMore } from '../../shell/ShowMore'
import { Empty, Heading } from '../../shell/Station'
import { FitMark } from './FitMark'
import { FitTable } from './FitTable'

/** How the photos of an album fit what it sells: photos down, options across. */
export function FitStation() {
  const { album } = useParams({ from: '/workroom/fit/$album' })
  const { only } = useSearch({ from: '/workroom/fit/$album' })
  const go = useNavigate({ from: '/workroom/fit/$album' })
  const list = useInfiniteQuery({
    queryKey: ['fit', album, only],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/albums/{album}/fit', {
          params: { path: { album }, query: { at: pageParam, ...(only && { nothing: true }) } },
        }),
        w.errors.away,
      ),
    getNextPageParam: (last, all) => {
      const shown = all.reduce((sum, page) => sum + page.listed.length, 0)
      return shown < last.found ? shown : undefined
    },
  })
  const first = list.data?.pages[0]
  if (!first) return list.error ? <p className="p-10">{list.error.message}</p> : null
  const photos = list.data?.pages.flatMap((page) => page.listed) ?? []
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.fit.title(first.album)}
        lead={w.fit.lead(first.name)}
        right={
          <span className="flex gap-5 text-small">
            <Link to="/workroom/albums/$album" params={{ album }} className={asWord}>
              {w.fit.back}
            </Link>
            <Link to="/workroom/prices/$list" params={{ list: first.list }} className={asWord}>
              {w.fit.toList}
            </Link>
          </span>
        }
      />
      {first.options.length === 0 ? (
        <Empty title={w.fit.noOptions} lead={w.fit.noOptionsLead} />
      ) : first.photos === 0 ? (
        <Empty title={w.fit.noPhotos} />
      ) : (
        <>
          <p className="mt-4 flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <span role="status">{w.fit.nothingOf(first.nothing, first.photos)}</span>
            {(first.nothing > 0 || only) && (
              <span className="flex gap-4">
                <Choice on={!only} onClick={() => void go({ search: {} })}>
                  {w.fit.all}
                </Choice>
                <Choice on={!!only} onClick={() => void go({ search: { only: 'nothing' } })}>
                  {w.fit.only}
                </Choice>
              </span>
            )}
          </p>
          <ul
            aria-label={w.fit.key}
            className="mt-2 mb-4 flex flex-wrap gap-x-5 gap-y-1 text-small text-quiet"
          >
            {(['good', 'fair', 'poor', 'tooSmall'] as const).map((grade) => (
              <li key={grade} className="flex items-center gap-1.5">
                <FitMark grade={grade} /> {w.fit.grades[grade]}
              </li>
            ))}
            <li className="flex items-center gap-1.5">
              <FitMark grade={null} off /> {w.fit.notOffered}
            </li>
          </ul>
          {photos.length === 0 ? (
            <Empty title={w.fit.noneLeft} lead={w.fit.noneLeftLead} />
          ) : (
            <FitTable album={album} list={first} photos={photos} />
          )}
          <ShowMore of={list}>{w.fit.more(Math.min(first.step, first.found - photos.length))}</ShowMore>
        </>
      )}
    </div>
  )
}
