import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { type ReactNode, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'

const away = w.errors.away

/** What the software notices of a page while one works on it: which layout suits, which photos are too small, which lack words. */
export function MarginNotes({
  page,
  layout,
  onLayout,
}: {
  page: Api['PageLine']
  layout: Api['LayoutSettings']
  onLayout: (kind: Api['LayoutSettings']['kind']) => void
}) {
  const notes = useQuery({
    queryKey: ['pages', page.id, 'notes', page.edited],
    queryFn: () => body(api.GET('/api/pages/{page}/notes', { params: { path: { page: page.id } } }), away),
    placeholderData: keepPreviousData,
  }).data
  if (!notes) return null
  const { advice, small, blurred, onlySharp, withoutWords } = notes
  return (
    <ul aria-label={w.pages.notes.label} className="mt-3 grid gap-1.5 text-small">
      {advice && (
        <Note>
          {advice.sentence}{' '}
          {advice.kind !== layout.kind && (
            <Button look="word" onClick={() => onLayout(advice.kind)}>
              {w.pages.notes.take[advice.kind]}
            </Button>
          )}
        </Note>
      )}
      {blurred + onlySharp > 0 && (
        <Note>
          <TooSmall small={small} blurred={blurred} onlySharp={onlySharp} />
        </Note>
      )}
      {withoutWords > 0 && (
        <Note>
          <Link
            to="/workroom/photos"
            search={{ album: page.album, missing: 'alt' }}
            className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
          >
            {w.pages.notes.withoutWords(withoutWords)}
          </Link>
        </Note>
      )}
    </ul>
  )
}

function Note({ children }: { children: ReactNode }) {
  return (
    <li className="grid grid-cols-[1rem_minmax(0,1fr)]">
      <span aria-hidden className="mt-[0.4em] block size-[7px] rotate-45 bg-plum" />
      <span>{children}</span>
    </li>
  )
}

/** Which photos are smaller than their places; pressed, they are shown. */
function TooSmall({
  small,
  blurred,
  onlySharp,
}: {
  small: readonly Api['SmallOnPage'][]
  blurred: number
  onlySharp: number
}) {
  const [open, setOpen] = useState(false)
  return (
    <Popover
      wide
      open={open}
      onOpenChange={setOpen}
      label={w.pages.notes.small(blurred, onlySharp)}
      trigger={
        <button
          type="button"
          className="text-left underline decoration-strong-line decoration-1 underline-offset-[5px] hover:decoration-ink"
        >
          {w.pages.notes.small(blurred, onlySharp)}
        </button>
      }
    >
      <ul className="grid max-h-80 grid-cols-3 gap-3 overflow-y-auto text-small">
        {small.map((photo) => (
          <li key={photo.photo}>
            <Link to="/workroom/photos" search={{ photo: photo.photo }} className="group block">
              <span className="flex h-16 items-end">
                <img
                  src={rendition(photo.picture, 480)}
                  alt=""
                  loading="lazy"
                  className="max-h-16 w-auto max-w-full"
                />
              </span>
              <span className="block truncate group-hover:underline">{photo.name}</span>
              <span className="block text-quiet">
                {photo.blurred ? w.pages.notes.onAny(photo.device) : w.pages.notes.onSharp(photo.device)}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {blurred + onlySharp > small.length && (
        <p className="mt-3 text-small text-quiet">{w.pages.notes.more(blurred + onlySharp - small.length)}</p>
      )}
    </Popover>
  )
}
