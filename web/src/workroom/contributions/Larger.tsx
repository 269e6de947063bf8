import { Button } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { w } from '../../words'
import { bytes } from '../shell/format'
import { type Contributed, nameOf, pictureOf } from './data'

/** A photo that was sent in as large as it can be judged; arrows lead to those beside it. */
export function Larger({
  photos,
  shown,
  onShow,
}: {
  photos: readonly Contributed[]
  /** Null for none. */
  shown: string | null
  onShow: (photo: string | null) => void
}) {
  const all = photos.filter((p) => p.hasPicture)
  const at = all.findIndex((p) => p.id === shown)
  const photo = all[at]
  const step = (by: number) => {
    const next = all[at + by]
    if (next) onShow(next.id)
  }
  return (
    <Dialog wide open={!!photo} onClose={() => onShow(null)} title={photo ? nameOf(photo) : ''}>
      {photo && (
        // biome-ignore lint/a11y/noStaticElementInteractions: the arrows do what the buttons beneath do
        <div
          className="mt-3"
          onKeyDown={(e) => {
            if (e.key === 'ArrowRight') step(1)
            if (e.key === 'ArrowLeft') step(-1)
          }}
        >
          <img
            key={photo.id}
            src={pictureOf(photo.id, 1600)}
            alt={nameOf(photo)}
            width={photo.width}
            height={photo.height}
            className="mx-auto h-auto max-h-[58vh] w-auto max-w-full"
          />
          <p className="mt-3 text-small text-quiet">
            {photo.fileName}, {photo.width} × {photo.height}, {bytes(photo.bytes)}
          </p>
          {photo.caption && <p className="mt-1 whitespace-pre-line">{photo.caption}</p>}
          <p className="mt-3 flex gap-5">
            <Button disabled={at === 0} onClick={() => step(-1)}>
              {w.contributions.previous}
            </Button>
            <Button disabled={at === all.length - 1} onClick={() => step(1)}>
              {w.contributions.next}
            </Button>
          </p>
        </div>
      )}
    </Dialog>
  )
}
