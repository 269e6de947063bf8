import { Link, useNavigate } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct, useAlbums } from '../shell/data'
import { CategoryChoice } from '../standing/CategoryChoice'
import { useStand, withCategory } from '../standing/useStand'

const away = w.errors.away

/** Albums in view that no visitor comes upon; each is given a place here. */
export function ShownNowhere({ albums }: { albums: readonly Api['AlbumNowhere'][] }) {
  const go = useNavigate()
  const all = useAlbums().data ?? []
  const stand = useStand()
  const make = useAct(
    (album: string) => body(api.POST('/api/pages', { body: { album } }), away),
    (page) => void go({ to: '/workroom/pages/$page', params: { page: page.id } }),
  )
  if (albums.length === 0) return <p className="text-quiet">{w.desk.everywhere}</p>
  return (
    <>
      <p className="mb-2 text-small text-quiet">{w.desk.nowhereLead}</p>
      <ul>
        {albums.map((a) => {
          const album = all.find((one) => one.id === a.id)
          return (
            <li key={a.id} className="flex items-baseline gap-3 border-b border-line py-1.5">
              <Link
                to="/workroom/albums/$album"
                params={{ album: a.id }}
                className="min-w-0 truncate hover:underline"
              >
                {a.workingName}
              </Link>
              <span className="text-small whitespace-nowrap text-quiet tabular-nums">
                {w.photos(a.photos)}
              </span>
              <span className="ml-auto flex items-baseline gap-4">
                {album && (
                  <CategoryChoice
                    trigger={
                      <Button look="word" aria-label={`${w.desk.putIn}: ${a.workingName}`}>
                        {w.desk.putIn}
                      </Button>
                    }
                    without={album.standing.categories.map((c) => c.category)}
                    onChoose={(c) =>
                      stand.mutate({
                        album,
                        next: { categories: withCategory(album.standing, c.id) },
                        told: w.standing.putInto(a.workingName, c.name),
                      })
                    }
                  />
                )}
                {a.hasDraft ? (
                  <Link
                    to="/workroom/pages"
                    className="underline decoration-strong-line decoration-1 underline-offset-4"
                  >
                    {w.desk.seeDraft}
                  </Link>
                ) : (
                  <Button look="word" onClick={() => make.mutate(a.id)}>
                    {w.desk.makePage}
                  </Button>
                )}
              </span>
            </li>
          )
        })}
      </ul>
    </>
  )
}
