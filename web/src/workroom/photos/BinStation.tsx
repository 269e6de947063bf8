import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { tell } from '../shell/news'
import { Empty, Heading } from '../shell/Station'

const key = ['bin']

/** What was thrown away, to be taken back or removed for good. */
export function BinStation() {
  const client = useQueryClient()
  const [asking, setAsking] = useState(false)
  const photos = useQuery({
    queryKey: key,
    queryFn: async () => (await body(api.GET('/api/bin'), w.errors.away)).photos,
  }).data
  const read = () => void client.invalidateQueries({ queryKey: key })
  const restore = useAct(
    (ids: string[]) => body(api.POST('/api/bin/restore', { body: { photos: ids } }), w.errors.away),
    (out) => {
      read()
      tell({ text: w.bin.restored(out.count) })
    },
  )
  const empty = useAct(
    () => body(api.DELETE('/api/bin'), w.errors.away),
    (out) => {
      setAsking(false)
      read()
      tell({ text: w.bin.emptied(out.count) })
    },
  )
  if (!photos) return null
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.bin.title}
        lead={photos.length > 0 ? w.bin.lead : undefined}
        right={
          photos.length > 0 && (
            <span className="flex items-center gap-5">
              <Button look="word" onClick={() => restore.mutate(photos.map((p) => p.id))}>
                {w.bin.restoreAll}
              </Button>
              <Button onClick={() => setAsking(true)}>{w.bin.empty}</Button>
            </span>
          )
        }
      />
      {photos.length === 0 ? (
        <Empty title={w.bin.none} lead={w.bin.lead} />
      ) : (
        <ul className="mt-7 grid grid-cols-[repeat(auto-fill,minmax(150px,1fr))] gap-x-4 gap-y-6">
          {photos.map((p) => (
            <li key={p.id} className="[contain-intrinsic-size:auto_170px] [content-visibility:auto]">
              <div className="flex h-[110px] items-end">
                {p.shown ? (
                  <img
                    src={rendition(p.hash, 480)}
                    alt={p.title || p.fileName}
                    width={p.width}
                    height={p.height}
                    loading="lazy"
                    className="max-h-full w-auto max-w-full object-contain"
                  />
                ) : (
                  <span className="text-small text-quiet">{w.sheet.failed}</span>
                )}
              </div>
              <div className="mt-1.5 border-t border-line pt-1 text-small">
                <span className="block truncate">{p.title || p.fileName}</span>
                <span className="block truncate text-quiet">
                  {w.bin.thrown(p.binnedBy, moment(p.binned))}
                </span>
                <Button look="word" onClick={() => restore.mutate([p.id])}>
                  {w.bin.restore}
                </Button>
              </div>
            </li>
          ))}
        </ul>
      )}
      <Dialog open={asking} onClose={() => setAsking(false)} title={w.bin.emptyAsk(photos.length)}>
        <p className="mt-3">{w.bin.emptyText}</p>
        <div className="mt-5 flex gap-4">
          <Button look="next" onClick={() => empty.mutate(undefined)}>
            {w.bin.emptyYes}
          </Button>
          <Button onClick={() => setAsking(false)}>{w.bin.keep}</Button>
        </div>
      </Dialog>
    </div>
  )
}
