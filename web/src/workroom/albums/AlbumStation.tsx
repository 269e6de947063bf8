import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate, useParams, useSearch } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { MarkingLine } from '../access/marking/MarkingLine'
import { ReserveLine } from '../access/reserves/ReserveLine'
import { Plate } from '../plate/Plate'
import { HandLine } from '../sheet/HandLine'
import { Sheet } from '../sheet/Sheet'
import { useAct } from '../shell/data'
import { hand, useHand } from '../shell/hand'
import { tellDone } from '../shell/news'
import { Empty, ToPhotos } from '../shell/Station'
import { AlbumFiles } from './AlbumFiles'
import { AlbumFilling } from './AlbumFilling'
import { AlbumHead } from './AlbumHead'
import { AlbumOffers } from './AlbumOffers'
import { AlbumSelling } from './AlbumSelling'
import { AlbumStanding } from './AlbumStanding'
import { AlbumVerbs } from './AlbumVerbs'

const away = w.errors.away

/** One album: its words, how it keeps itself, and its photos in their order. */
export function AlbumStation() {
  const { album: id } = useParams({ from: '/workroom/albums/$album' })
  const search = useSearch({ from: '/workroom/albums/$album' })
  const go = useNavigate({ from: '/workroom/albums/$album' })
  const [start, setStart] = useState(0)
  const album = useQuery({
    queryKey: ['albums', id],
    queryFn: () => body(api.GET('/api/albums/{album}', { params: { path: { album: id } } }), away),
  })
  const query = { album: id, sort: 'place' as const }
  if (album.error && !album.data) return <p className="p-10">{album.error.message}</p>
  if (!album.data) return null
  if (search.photo)
    return (
      <Plate
        id={search.photo}
        query={query}
        name={album.data.workingName}
        onGo={(photo) => void go({ search: { photo }, replace: true })}
        onBack={(position) => {
          setStart(position)
          void go({ search: {} })
        }}
      />
    )
  return (
    <Opened
      key={id}
      album={album.data}
      start={start}
      onOpen={(photo, index) => {
        setStart(index)
        void go({ search: { photo } })
      }}
    />
  )
}

function Opened({
  album,
  start,
  onOpen,
}: {
  album: Api['AlbumLine']
  start: number
  onOpen: (id: string, index: number) => void
}) {
  const { ids, count } = useHand()
  const client = useQueryClient()
  /** What one does next goes by the version this act made, without waiting until the album is read again. */
  const stand = (moved: Api['AlbumMoved']) =>
    client.setQueryData<Api['AlbumLine']>(['albums', album.id], (a) => a && { ...a, version: moved.version })
  const query = { album: album.id, sort: 'place' as const }
  const byHand = album.filling.sort === 'place'
  const move = useAct(
    async (to: { photo?: string | null; before?: string | null; position?: number }) =>
      body(
        api.PUT('/api/albums/{album}/order', {
          params: { path: { album: album.id }, header: { 'If-Match': album.version } },
          body: {
            ...(to.photo ? { photos: [to.photo] } : await hand.reach()),
            ...(to.before && { before: to.before }),
            position: to.position ?? null,
          },
        }),
        away,
      ),
    (moved, to) => {
      stand(moved)
      if (moved.done.act)
        tellDone(
          to.position === undefined
            ? w.albums.movedBefore(moved.done.photos)
            : w.albums.moved(moved.done.photos, to.position + 1),
          moved.done,
        )
    },
  )
  const takeOut = useAct(
    async () =>
      body(
        api.POST('/api/albums/{album}/photos/removal', {
          params: { path: { album: album.id } },
          body: await hand.reach(),
        }),
        away,
      ),
    (moved) => {
      stand(moved)
      tellDone(
        album.filling.search === null
          ? w.albums.takenOut(moved.done.photos)
          : w.albums.filling.held(moved.done.photos),
        moved.done,
      )
    },
  )
  const cover = useAct(
    (photo: string) =>
      body(
        api.PATCH('/api/albums/{album}', {
          params: { path: { album: album.id }, header: { 'If-Match': album.version } },
          body: { cover: photo },
        }),
        away,
      ),
    ({ done }) => tellDone(w.albums.covered, done),
  )
  return (
    <div className="flex h-full flex-col px-[30px] pt-7">
      <AlbumHead album={album} />
      <AlbumStanding album={album} />
      <AlbumOffers album={album.id} />
      <ReserveLine of={{ kind: 'album', id: album.id }} className="-mt-1.5 mb-3" />
      <MarkingLine of={{ kind: 'album', id: album.id }} className="mb-3" />
      <AlbumSelling album={album.id} />
      <AlbumFilling album={album} />
      <AlbumFiles album={album.id} />
      <HandLine
        rest={album.photos === 0 ? '' : byHand ? w.albums.howToOrder : w.albums.howInOrder}
        query={query}
        total={album.photos}
      >
        <AlbumVerbs
          last={album.photos}
          one={count === 1}
          onMove={byHand ? (position) => move.mutate({ position }) : undefined}
          holds={album.filling.search !== null}
          onTakeOut={() => takeOut.mutate(undefined)}
          onCover={() => ids[0] && cover.mutate(ids[0])}
        />
      </HandLine>
      <div className="flex min-h-0 flex-1 flex-col pt-[18px]">
        <Sheet
          query={query}
          size={1}
          start={start}
          onOpen={onOpen}
          {...(byHand && {
            onMove: (photo: string | null, before: string | null) => move.mutate({ photo, before }),
          })}
          empty={
            <Empty title={w.albums.empty} lead={w.albums.emptyLead}>
              <ToPhotos />
            </Empty>
          }
        />
      </div>
    </div>
  )
}
