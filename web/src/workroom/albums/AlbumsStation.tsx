import { Link, useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useAlbums, useMakeAlbum } from '../shell/data'
import { Empty, Heading } from '../shell/Station'

/** All albums, each with its cover and who can see it. */
export function AlbumsStation() {
  const albums = useAlbums()
  const go = useNavigate()
  const [making, setMaking] = useState(false)
  const make = useMakeAlbum(
    (album) => void go({ to: '/workroom/albums/$album', params: { album: album.id } }),
  )
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.albums.title}
        right={
          !making && (
            <Button look="next" onClick={() => setMaking(true)}>
              {w.albums.make}
            </Button>
          )
        }
      />
      {making && (
        <form
          className="mt-4 flex items-baseline gap-4"
          onSubmit={(e) => {
            e.preventDefault()
            make.mutate(String(new FormData(e.currentTarget).get('name')))
          }}
        >
          <input
            name="name"
            required
            // biome-ignore lint/a11y/noAutofocus: it appears because one asked to type into it.
            autoFocus
            aria-label={w.albums.name}
            placeholder={w.albums.name}
            className="w-80 border-b border-plum bg-transparent py-1 text-lead outline-none"
            onKeyDown={(e) => e.key === 'Escape' && setMaking(false)}
          />
          <Button look="next" type="submit">
            {w.albums.makeIt}
          </Button>
        </form>
      )}
      {albums.data?.length === 0 && !making && <Empty title={w.albums.none} lead={w.albums.noneLead} />}
      <ul className="mt-7 grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-x-6 gap-y-8">
        {albums.data?.map((a) => (
          <li key={a.id}>
            <Link to="/workroom/albums/$album" params={{ album: a.id }} className="group block">
              <span className="frame-picture flex h-44 items-end">
                {a.cover?.shown ? (
                  <img
                    src={rendition(a.cover.picture, 480)}
                    width={a.cover.width}
                    height={a.cover.height}
                    alt=""
                    loading="lazy"
                    className="h-auto w-auto"
                  />
                ) : (
                  <span className="flex h-full w-full items-end border border-dashed border-line p-3 text-small text-quiet">
                    {w.albums.empty}
                  </span>
                )}
              </span>
              <span className="mt-2 flex items-baseline justify-between gap-3 border-t border-line pt-1.5 group-hover:border-ink">
                <strong className="truncate">{a.workingName}</strong>
                <span className="text-small text-quiet tabular-nums">{w.count(a.photos)}</span>
              </span>
              <span className="block text-small text-quiet">
                {a.filling.search !== null && <>{w.albums.filling.itself}. </>}
                {a.audience.sentence}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  )
}
