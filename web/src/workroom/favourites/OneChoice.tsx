import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { choiceLine } from '../shell/choiceLine'
import { useAct } from '../shell/data'
import { hand } from '../shell/hand'
import { tell } from '../shell/news'

/** What one visitor chose: what they say with it, what can be done with it, and the photos in the order of choosing. */
export function OneChoice({ id }: { id: string }) {
  const path = { params: { path: { choice: id } } }
  const { data: shown, error } = useQuery({
    queryKey: ['choices', 'one', id],
    queryFn: () => body(api.GET('/api/choices/{choice}', path), w.errors.away),
  })
  const note = useAct(() => body(api.POST('/api/choices/{choice}/noted', path), w.errors.away))
  const reopen = useAct(
    () => body(api.POST('/api/choices/{choice}/reopen', path), w.errors.away),
    () => tell({ text: w.favourites.reopened(shown?.choice.name ?? '') }),
  )
  if (!shown) return error ? <p>{error.message}</p> : null
  const { choice, photos } = shown
  return (
    <section aria-label={w.favourites.open(choice.name, choice.albumName)} className="min-w-0">
      <h2 className="text-head">{choice.name}</h2>
      <p className="mt-1 text-quiet">
        <Link
          to="/workroom/albums/$album"
          params={{ album: choice.album }}
          className="underline decoration-strong-line decoration-1 underline-offset-4"
        >
          {choice.albumName}
        </Link>
        . {choiceLine(choice)}
      </p>
      {choice.words && (
        <blockquote className="mt-4 max-w-[42rem] border-l-3 border-plum pl-4 whitespace-pre-line">
          {choice.words}
        </blockquote>
      )}
      <div className="mt-5 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        {choice.sent && !choice.isNoted && (
          <Button look="next" disabled={note.isPending} onClick={() => note.mutate(undefined)}>
            {w.favourites.note}
          </Button>
        )}
        {photos.length > 0 && (
          <>
            <Button
              onClick={() => {
                hand.take(photos.map((p) => p.id))
                tell({ text: w.favourites.taken(photos.length) })
              }}
            >
              {w.favourites.takeUp(photos.length)}
            </Button>
            <a href={`/api/choices/${id}/photos.csv`} download className={asWord}>
              {w.favourites.list}
            </a>
          </>
        )}
        {(choice.member ?? choice.entry) && (
          <Link
            to="/workroom/records"
            search={choice.member ? { member: choice.member } : { entry: choice.entry ?? undefined }}
            className={asWord}
          >
            {w.records.see}
          </Link>
        )}
        {choice.sent && (
          <Button look="word" disabled={reopen.isPending} onClick={() => reopen.mutate(undefined)}>
            {w.favourites.reopen}
          </Button>
        )}
      </div>
      {photos.length === 0 ? (
        <p className="mt-6 text-quiet">{w.favourites.nothing}</p>
      ) : (
        <ul className="mt-6 grid grid-cols-[repeat(auto-fill,minmax(9.5rem,1fr))] gap-x-3 gap-y-4">
          {photos.map((photo) => (
            <li key={photo.id} className="min-w-0">
              <Link
                to="/workroom/albums/$album"
                params={{ album: choice.album }}
                search={{ photo: photo.id }}
                aria-label={w.favourites.toPhoto(photo.name)}
                className="block"
              >
                <span className="grid h-[7.5rem] items-end">
                  <img
                    src={rendition(photo.picture, 480)}
                    alt=""
                    width={photo.width}
                    height={photo.height}
                    loading="lazy"
                    className="h-auto max-h-[7.5rem] w-auto max-w-full"
                  />
                </span>
                <span className="mt-1 block truncate text-small text-quiet">{photo.name}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
