import { useQuery } from '@tanstack/react-query'
import { Link, useRouter } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useHand } from '../shell/hand'
import { useKeys } from '../shell/keys'
import { Heading, NothingInHand } from '../shell/Station'
import { Rules } from './Rules'
import { SharedWords } from './SharedWords'

/** One plate for all photos in hand: their words at the right, and rules that write many at once beneath the photos. */
export function DescribeStation() {
  const { count } = useHand()
  const { history } = useRouter()
  useKeys({ Escape: () => history.back() })
  if (count === 0) return <NothingInHand lead={w.describing.nothingLead} />
  return (
    <div className="flex min-h-full flex-col px-[30px] pt-7 pb-8">
      <div className="text-small text-quiet">
        <button type="button" className="hover:text-ink" onClick={() => history.back()}>
          ← {w.describing.back}
        </button>
      </div>
      <div className="mt-3 grid flex-1 grid-cols-[minmax(0,1fr)_330px] gap-[34px] max-xl:grid-cols-[minmax(0,1fr)_290px] max-lg:grid-cols-1">
        <div className="min-w-0">
          <Heading
            title={w.describing.title(count)}
            right={
              <Link
                to="/workroom/describe/table"
                className="pb-1 text-small underline decoration-strong-line underline-offset-[5px]"
              >
                {w.table.open}
              </Link>
            }
          />
          <Mosaic />
          <Rules />
        </div>
        <article className="self-start">
          <SharedWords />
        </article>
      </div>
    </div>
  )
}

/** So many small pictures stand for all in hand. */
const shown = 16

function Mosaic() {
  const { ids, count } = useHand()
  const first = ids.slice(0, shown)
  const photos = useQuery({
    queryKey: ['these', first],
    queryFn: async () =>
      (await body(api.POST('/api/photos/these', { body: { photos: [...first] } }), w.errors.away)).photos,
    placeholderData: (before) => before,
  }).data
  return (
    <ul
      className="mt-4 flex max-h-[136px] flex-wrap items-center gap-1.5 overflow-hidden"
      aria-label={w.describing.these}
    >
      {photos?.map((p) => (
        <li key={p.id} className="h-16">
          {p.state === 'ready' ? (
            <img
              src={rendition(p.picture, 480)}
              alt={p.title || p.fileName}
              title={p.title || p.fileName}
              className="h-16 w-auto"
            />
          ) : (
            <span className="grid h-16 w-20 place-items-center bg-well px-1 text-center text-[0.6875rem] text-quiet">
              {p.fileName}
            </span>
          )}
        </li>
      ))}
      {count > first.length && (
        <li className="px-2 text-small text-quiet">{w.describing.more(count - first.length)}</li>
      )}
    </ul>
  )
}
