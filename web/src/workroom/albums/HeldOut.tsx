import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'

const away = w.errors.away

/** The photos held out of an album that fills itself; pressed, one is let in again. */
export function HeldOut({ album }: { album: Api['AlbumLine'] }) {
  const [open, setOpen] = useState(false)
  const held = useQuery({
    queryKey: ['albums', album.id, 'without'],
    queryFn: () =>
      body(api.GET('/api/albums/{album}/photos/without', { params: { path: { album: album.id } } }), away),
    enabled: open,
  }).data
  const letIn = useAct(
    (photos: string[]) =>
      body(
        api.POST('/api/albums/{album}/photos/without/removal', {
          params: { path: { album: album.id } },
          body: { photos },
        }),
        away,
      ),
    (done) => {
      tellDone(w.albums.filling.letInNow(done.photos), done)
      if (album.without <= done.photos) setOpen(false)
    },
  )
  return (
    <Popover
      wide
      open={open}
      onOpenChange={setOpen}
      label={w.albums.filling.heldLong}
      trigger={<Button look="word">{w.albums.filling.heldOut(album.without)}</Button>}
    >
      <ul className="grid max-h-80 grid-cols-3 gap-3 overflow-y-auto">
        {held?.photos.map((photo) => (
          <li key={photo.id}>
            <button
              type="button"
              aria-label={`${w.albums.filling.letIn}: ${photo.title || photo.fileName}`}
              title={w.albums.filling.letIn}
              onClick={() => letIn.mutate([photo.id])}
              className="group block w-full text-left"
            >
              <span className="flex h-20 items-end">
                <img
                  src={rendition(photo.picture, 480)}
                  width={photo.width}
                  height={photo.height}
                  alt=""
                  loading="lazy"
                  className="h-auto max-h-20 w-auto max-w-full group-hover:opacity-70"
                />
              </span>
              <span className="block truncate text-small text-quiet group-hover:text-ink">
                {photo.title || photo.fileName}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {held && held.photos.length > 1 && (
        <Button
          look="word"
          className="mt-3 text-small"
          onClick={() => letIn.mutate(held.photos.map((p) => p.id))}
        >
          {w.albums.filling.letInAll}
        </Button>
      )}
    </Popover>
  )
}
