import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { asWord } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { usePriceLists } from '../shell/data'
import { tellDone } from '../shell/news'
import { useSaying } from '../shell/useSaying'

const nothing = ''

/** By which price list an album's photos are sold; nothing is said while the site has none. */
export function AlbumSelling({ album }: { album: string }) {
  const lists = usePriceLists().data?.lists ?? []
  const path = { album }
  const selling = useQuery({
    queryKey: ['selling', album],
    queryFn: () => body(api.GET('/api/albums/{album}/selling', { params: { path } }), w.errors.away),
  }).data
  const say = useSaying(
    selling,
    (next, was) =>
      body(
        api.PUT('/api/albums/{album}/selling', { params: { path }, body: { selling: next, was } }),
        w.errors.away,
      ),
    (done) => tellDone(w.selling.said, done),
    'selling',
  )
  if (!selling || (lists.length === 0 && !selling.list)) return null
  return (
    <section
      aria-label={w.selling.label}
      className="mb-3 flex flex-wrap items-baseline gap-x-1.5 gap-y-1 text-small"
    >
      <span>{w.selling.lead}</span>
      <WordSelect
        label={w.selling.label}
        value={selling.list ?? nothing}
        choices={[[nothing, w.selling.nothing] as const, ...lists.map((l) => [l.id, l.name] as const)]}
        onChoose={(list) => say(() => ({ list: list || null, without: [] }))}
      />
      {selling.without.length > 0 && <span>{w.selling.without(selling.without.length)}</span>}
      {selling.list && (
        <Link to="/workroom/fit/$album" params={{ album }} className={`${asWord} ml-2`}>
          {w.selling.fit}
        </Link>
      )}
    </section>
  )
}
