import { Link } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { MostPhotos } from '../filling/MostPhotos'
import { searchFrom } from '../narrowings/kept'
import { isNarrowed, partsOf } from '../narrowings/narrowing'
import { partWords } from '../narrowings/says'
import { useCounts } from '../narrowings/useCounts'
import { SortChoice } from '../sheet/SortChoice'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'
import { HeldOut } from './HeldOut'

const away = w.errors.away
const underlined = 'underline decoration-strong-line decoration-1 underline-offset-[5px] hover:decoration-ink'

/** How an album keeps itself, read as a sentence whose parts are pressed to change it. */
export function AlbumFilling({ album }: { album: Api['AlbumLine'] }) {
  const { filling } = album
  const itself = filling.search !== null
  const say = useAct(
    (next: Partial<Api['AlbumFilling']>) =>
      body(
        api.PUT('/api/albums/{album}/filling', {
          params: { path: { album: album.id }, header: { 'If-Match': album.version } },
          body: { ...filling, ...next },
        }),
        away,
      ),
    ({ done }, next) =>
      tellDone(next.search === null && itself ? w.albums.filling.handPickedNow : w.albums.filling.said, done),
  )
  const rearrange = useAct(
    (how: 'shuffled' | 'reversed') =>
      body(
        api.POST('/api/albums/{album}/order', {
          params: { path: { album: album.id }, header: { 'If-Match': album.version } },
          body: { how },
        }),
        away,
      ),
    ({ done }, how) => tellDone(w.albums.filling[how], done),
  )
  const order = (
    <SortChoice
      label={w.albums.filling.order}
      sort={filling.sort}
      reversed={filling.reversed ?? false}
      byHand={!itself}
      onChange={(sort, reversed) => say.mutate({ sort, reversed })}
    />
  )
  return (
    <section
      aria-label={w.albums.filling.label}
      className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-small"
    >
      {itself ? (
        <p>
          {w.albums.filling.fills} <Rule album={album} />, {w.albums.filling.by} {order}{' '}
          {w.albums.filling.atMost} <MostPhotos most={filling.most} onSay={(most) => say.mutate({ most })} />
        </p>
      ) : (
        <p>
          {filling.sort === 'place' ? w.albums.filling.picked : w.albums.filling.keptBy} {order}.
        </p>
      )}
      {album.without > 0 && <HeldOut album={album} />}
      {itself ? (
        <Button look="word" onClick={() => say.mutate({ search: null, sort: 'place', reversed: false })}>
          {w.albums.filling.handPicked}
        </Button>
      ) : (
        <>
          {filling.sort === 'place' && album.photos > 1 && (
            <>
              <Button look="word" onClick={() => rearrange.mutate('reversed')}>
                {w.albums.filling.reverse}
              </Button>
              <Button look="word" onClick={() => rearrange.mutate('shuffled')}>
                {w.albums.filling.shuffle}
              </Button>
            </>
          )}
          <Link to="/workroom/photos" search={{ fills: album.id }} className={underlined}>
            {w.albums.filling.choose}
          </Link>
        </>
      )}
    </section>
  )
}

/** What fills an album, in words; pressed, the sheet shows it and lets one change it. */
function Rule({ album }: { album: Api['AlbumLine'] }) {
  const said = searchFrom(album.filling.search ?? '')
  const counts = useCounts(said, isNarrowed(said))
  const parts = partsOf(said).map((part) => partWords(part, counts.nameOf))
  const words = said.q ? [w.narrowing.saying(said.q), ...parts] : parts
  return (
    <Link
      to="/workroom/photos"
      search={{
        ...said,
        sort: album.filling.sort,
        ...(album.filling.reversed && { reversed: true }),
        fills: album.id,
      }}
      title={w.albums.filling.change}
      className={`font-semibold ${underlined}`}
    >
      {words.length === 0 ? w.albums.filling.all : `${w.albums.filling.photos} ${words.join(', ')}`}
    </Link>
  )
}
