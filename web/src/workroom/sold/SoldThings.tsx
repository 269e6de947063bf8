import { Link } from '@tanstack/react-router'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import type { Sold } from './SoldStation'

type Thing = Sold['photos'][number]

/** What was sold of options or photos, what came to most first. */
export function SoldThings({
  title,
  things,
  pictures = false,
}: {
  title: string
  things: readonly Thing[]
  pictures?: boolean
}) {
  return (
    <section aria-label={title} className="min-w-0">
      <h2 className="mb-2 text-lead font-semibold">{title}</h2>
      <ol className="border-b border-line">
        {things.map((thing) => (
          <li
            key={thing.id}
            className={`grid items-center gap-x-4 border-t border-line py-2 ${pictures ? 'grid-cols-[4rem_minmax(0,1fr)_auto]' : 'grid-cols-[minmax(0,1fr)_auto]'}`}
          >
            {pictures && <Picture thing={thing} />}
            <span className="min-w-0">
              <Called thing={thing} />
              <span className="block text-small text-quiet">{w.sold.pieces(thing.pieces)}</span>
            </span>
            <span className="text-right tabular-nums">
              {thing.amount}
              {thing.stays && (
                <span className="block text-small text-quiet">
                  {w.sold.stays(thing.stays, thing.isInPart)}
                </span>
              )}
            </span>
          </li>
        ))}
      </ol>
    </section>
  )
}

function Picture({ thing: { photo } }: { thing: Thing }) {
  if (!photo) return <span aria-hidden />
  return (
    <img
      src={rendition(photo.picture, 240)}
      alt=""
      width={photo.width}
      height={photo.height}
      loading="lazy"
      className="h-11 w-16 object-cover"
    />
  )
}

function Called({ thing: { called, photo } }: { thing: Thing }) {
  if (!photo) return <span className="block truncate">{called}</span>
  return (
    <Link
      to="/workroom/photos"
      search={{ photo: photo.id }}
      className="block truncate hover:underline hover:decoration-strong-line hover:underline-offset-4"
    >
      {called}
    </Link>
  )
}
