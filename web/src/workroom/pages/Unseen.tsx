import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Popover } from '../../kit/Popover'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'

/** Which photos of a page visitors will not see, and why, said before it is published; nothing where they see all. */
export function Unseen({ page }: { page: Api['OpenedPage'] }) {
  const [open, setOpen] = useState(false)
  const unseen = useQuery({
    queryKey: ['pages', page.id, 'unseen', page.edited],
    queryFn: () =>
      body(api.GET('/api/pages/{page}/unseen', { params: { path: { page: page.id } } }), w.errors.away),
  }).data
  const count = (all: readonly Api['UnseenPhotos'][]) => all.reduce((n, same) => n + same.count, 0)
  const [hidden, some] = [count(unseen?.hidden ?? []), count(unseen?.forSome ?? [])]
  if (!unseen || hidden + some === 0) return null
  return (
    <p className="text-small">
      <Popover
        wide
        open={open}
        onOpenChange={setOpen}
        label={w.pages.unseenTitle}
        trigger={
          <button
            type="button"
            className={
              'min-h-6 text-left underline decoration-strong-line decoration-1 underline-offset-4 hover:decoration-ink'
            }
          >
            {w.pages.unseen(hidden, some, unseen.all)}
          </button>
        }
      >
        <h2 className="text-body">{w.pages.unseenTitle}</h2>
        <p className="mt-1.5">{w.pages.seenBy(unseen.all - hidden - some)}</p>
        {[...unseen.hidden, ...unseen.forSome].map((same) => (
          <section key={same.said} aria-label={same.said} className="mt-2.5 border-t border-line pt-2">
            <p>{same.said}</p>
            <ul className="mt-1.5 flex gap-1">
              {same.photos.map((photo) => (
                <li key={photo.id}>
                  <Link to="/workroom/photos" search={{ photo: photo.id }}>
                    <img
                      src={rendition(photo.picture, 240)}
                      alt={photo.name}
                      title={photo.name}
                      className="size-10 object-cover"
                    />
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ))}
      </Popover>
    </p>
  )
}
