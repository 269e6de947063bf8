import { useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { sortWords } from '../sheet/SortChoice'
import type { SheetQuery } from '../sheet/useSheet'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'
import { fillingOf, orderOf } from './fillingOf'
import { MostPhotos, usual } from './MostPhotos'

const away = w.errors.away

/** Above a sheet whose narrowing is to fill an album: what it will do, and the two ways on. */
export function FillsBand({ album: id, search }: { album: string; search: SheetQuery }) {
  const go = useNavigate()
  const [most, setMost] = useState<number | null>(null)
  const album = useQuery({
    queryKey: ['albums', id],
    queryFn: () => body(api.GET('/api/albums/{album}', { params: { path: { album: id } } }), away),
  }).data
  const back = () => void go({ to: '/workroom/albums/$album', params: { album: id } })
  const { sort, reversed } = orderOf(search)
  const number = most ?? (album?.filling.search == null ? usual : album.filling.most)
  const fill = useAct(
    () =>
      body(
        api.PUT('/api/albums/{album}/filling', {
          params: { path: { album: id }, header: { 'If-Match': album?.version ?? 0 } },
          body: fillingOf(search, number),
        }),
        away,
      ),
    ({ done }) => {
      tellDone(w.albums.filling.said, done)
      back()
    },
  )
  if (!album) return null
  return (
    <section
      aria-label={w.albums.filling.label}
      className="mb-4 flex flex-wrap items-baseline gap-x-5 gap-y-1.5 border-y-[3px] border-plum py-2"
    >
      <p className="font-display text-[1.0625rem] font-semibold">
        {w.albums.filling.band(album.workingName)}, {w.albums.filling.by} {sortWords(sort, reversed)},{' '}
        {w.albums.filling.atMost} <MostPhotos most={number} onSay={setMost} />
      </p>
      <span className="ml-auto flex items-baseline gap-5">
        <Button look="word" className="text-small" onClick={back}>
          {w.albums.filling.leave}
        </Button>
        <Button look="next" disabled={fill.isPending} onClick={() => fill.mutate(undefined)}>
          {w.albums.filling.fill}
        </Button>
      </span>
    </section>
  )
}
