import { Link } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { ChooserPopover } from '../../kit/ChooserPopover'
import { w } from '../../words'
import { useAct, useAlbums } from '../shell/data'
import { tellDone } from '../shell/news'
import { CoverPicture } from './CoverPicture'

/** The albums that sell by a list, and how their photos fit it. */
export function SoldIn({ list, galleries }: { list: string; galleries: readonly Api['GalleryLine'][] }) {
  const albums = useAlbums().data ?? []
  const sell = useAct(
    async ({ album }: { album: string; name: string }) => {
      const path = { album }
      const was = await body(api.GET('/api/albums/{album}/selling', { params: { path } }), w.errors.away)
      return body(
        api.PUT('/api/albums/{album}/selling', {
          params: { path },
          body: { selling: { list, without: [] }, was },
        }),
        w.errors.away,
      )
    },
    (done, { name }) => tellDone(w.prices.alsoSells(name), done),
    'selling',
  )
  return (
    <section aria-label={w.prices.soldIn}>
      <h2 className="text-lead">{w.prices.soldIn}</h2>
      {galleries.length === 0 && <p className="mt-2 text-small text-quiet">{w.prices.soldInNone}</p>}
      <ul className="mt-2 grid gap-2.5">
        {galleries.map((gallery) => (
          <li key={gallery.album} className="grid grid-cols-[3.5rem_minmax(0,1fr)] items-center gap-x-3">
            <CoverPicture of={gallery} className="h-10 w-14" />
            <span className="min-w-0">
              <Link
                to="/workroom/albums/$album"
                params={{ album: gallery.album }}
                className="block truncate decoration-strong-line underline-offset-4 hover:underline"
              >
                {gallery.name}
              </Link>
              <Link
                to="/workroom/fit/$album"
                params={{ album: gallery.album }}
                className={`${asWord} text-small`}
              >
                {w.prices.fit}
              </Link>
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-3">
        <ChooserPopover
          label={w.source.whichAlbum}
          trigger={<Button look="word">{w.prices.sellAlso}</Button>}
          choices={albums
            .filter((a) => !galleries.some((g) => g.album === a.id))
            .map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) }))}
          onChoose={(choice) => sell.mutate({ album: choice.key, name: choice.name })}
        />
      </p>
    </section>
  )
}
