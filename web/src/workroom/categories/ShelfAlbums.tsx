import { useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { ChooserPopover } from '../../kit/ChooserPopover'
import { Popover } from '../../kit/Popover'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useAct, useAlbums, useCategories } from '../shell/data'
import { tellDone } from '../shell/news'
import { PlaceVerbs } from '../standing/PlaceVerbs'
import { useStand, withCategory } from '../standing/useStand'

const away = w.errors.away
type Line = Api['CategoryLine']
type Album = Api['CategoryAlbum']

/** The albums on the page of a category, in its order, with their covers. */
export function ShelfAlbums({ line, albums }: { line: Line; albums: readonly Album[] }) {
  const stand = useStand()
  const client = useQueryClient()
  const own = albums.filter((a) => a.within.includes(line.id))
  const move = useAct(
    ({ album, before }: { album: Album; before: string | null }) =>
      body(
        api.PUT('/api/albums/in/{category}/order', {
          params: { path: { category: line.id } },
          body: { album: album.id, ...(before && { before }) },
        }),
        away,
      ),
    (done, { album }) => tellDone(w.shelf.moved(album.workingName), done),
    'shelf',
  )
  /** One place to the left or to the right among those that stand here themselves. */
  function step(album: Album, by: -1 | 1) {
    const at = own.indexOf(album)
    const past = own[at + by]
    if (!past) return
    const before = by < 0 ? past : own[at + 2]
    // It moves under the finger: the next press counts from where it now stands.
    const shelf = ['albums', 'in', line.id]
    client.setQueryData<Album[]>(shelf, (read) =>
      read?.map((a) => (a.id === album.id ? past : a.id === past.id ? album : a)),
    )
    move.mutate(
      { album, before: before?.id ?? null },
      { onError: () => void client.invalidateQueries({ queryKey: shelf }) },
    )
  }
  return (
    <ul className="flex flex-wrap gap-x-4 gap-y-3">
      {albums.map((album) => (
        <li key={album.id} className="w-32">
          <AlbumOnShelf
            line={line}
            album={album}
            {...(line.page.sort === 'hand' &&
              own.includes(album) && { onStep: (by: -1 | 1) => step(album, by) })}
            onPut={(categories) => stand.mutate({ album, next: { categories } })}
          />
        </li>
      ))}
      <li className="w-32 self-center">
        {albums.length === 0 && (
          <p className="mb-1 text-quiet">{line.page.beneath ? w.shelf.noneBeneath : w.shelf.none}</p>
        )}
        <AddAlbum line={line} standing={own.map((a) => a.id)} />
      </li>
    </ul>
  )
}

function AlbumOnShelf({
  line,
  album,
  onStep,
  onPut,
}: {
  line: Line
  album: Album
  /** Missing where nobody places albums by hand. */
  onStep?: (by: -1 | 1) => void
  onPut: (categories: Album['standing']['categories']) => void
}) {
  const [open, setOpen] = useState(false)
  const names = useCategories().data ?? []
  const here = album.within.includes(line.id)
  const notes = [
    ...(album.putFirst || album.standing.putFirst ? [w.shelf.first] : []),
    ...(album.standing.shown ? [] : [w.shelf.outOfView]),
    ...(here ? [] : [w.shelf.within(names.filter((c) => album.within.includes(c.id)).map((c) => c.name))]),
  ]
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={album.workingName}
      trigger={
        <button
          type="button"
          className="group block w-full text-left"
          onKeyDown={(e) => {
            if (!onStep || (e.key !== 'ArrowLeft' && e.key !== 'ArrowRight')) return
            e.preventDefault()
            e.stopPropagation()
            onStep(e.key === 'ArrowLeft' ? -1 : 1)
          }}
        >
          <span className={`flex h-20 items-end ${album.standing.shown ? '' : 'opacity-40'}`}>
            {album.picture ? (
              <img
                src={rendition(album.picture, 480)}
                alt=""
                loading="lazy"
                className="max-h-20 w-auto max-w-full"
              />
            ) : (
              <span className="h-20 w-full border border-dashed border-line" />
            )}
          </span>
          <span className="mt-1 flex items-baseline justify-between gap-2 border-t border-line pt-0.5 group-hover:border-ink">
            <strong className="truncate">{album.workingName}</strong>
            <span className="text-quiet tabular-nums">{w.count(album.photos)}</span>
          </span>
          <span className="block truncate text-quiet">{notes.join(', ')}</span>
        </button>
      }
    >
      <p className="mb-2 font-semibold">{album.workingName}</p>
      <p className="flex flex-wrap gap-x-5 gap-y-2 text-small">
        {here && (
          <PlaceVerbs
            standing={album.standing}
            category={line.id}
            onPut={(categories) => {
              setOpen(false)
              onPut(categories)
            }}
          />
        )}
        {onStep && (
          <>
            <Button look="word" hint="←" onClick={() => onStep(-1)}>
              {w.shelf.earlier}
            </Button>
            <Button look="word" hint="→" onClick={() => onStep(1)}>
              {w.shelf.later}
            </Button>
          </>
        )}
        <Link
          to="/workroom/albums/$album"
          params={{ album: album.id }}
          className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
        >
          {w.shelf.toAlbum}
        </Link>
      </p>
    </Popover>
  )
}

/** Puts an album in a category. */
function AddAlbum({ line, standing }: { line: Line; standing: readonly string[] }) {
  const albums = useAlbums().data ?? []
  const stand = useStand()
  return (
    <ChooserPopover
      label={w.shelf.whichAlbum}
      trigger={
        <Button look="word" aria-label={`${w.shelf.add}: ${line.name}`}>
          {w.shelf.add}
        </Button>
      }
      choices={albums
        .filter((a) => !standing.includes(a.id))
        .map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) }))}
      onChoose={(choice) => {
        const album = albums.find((a) => a.id === choice.key)
        if (album)
          stand.mutate({
            album,
            next: { categories: withCategory(album.standing, line.id) },
            told: w.standing.putInto(album.workingName, line.name),
          })
      }}
    />
  )
}
