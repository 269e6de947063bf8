import { type Api, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { fitting, rendition } from '../../../kit/renditions'
import { w } from '../../../words'
import { useAct } from '../../shell/data'
import { tellDone } from '../../shell/news'

type Cell = Api['FitCell']

/** How a photo fits an option, with what is cut off, and whether it is sold of it. */
export function FitAbout({
  photo,
  option,
  cell,
  name,
  onDone,
}: {
  photo: Api['FitPhoto']
  option: Api['FitOption']
  cell: Cell
  name: string
  onDone: () => void
}) {
  const off = cell.why === 'byPhoto'
  const turn = useAct(
    () => {
      const ids = [option.id]
      return body(
        api.POST('/api/photos/selling', {
          body: { photos: [photo.id], without: off ? [] : ids, with: off ? ids : [] },
        }),
        w.errors.away,
      )
    },
    (done) => {
      tellDone(w.fit.took, done)
      onDone()
    },
    'selling',
  )
  return (
    <div className="grid gap-2.5 text-small">
      <p className="font-display text-lead font-semibold">{option.called}</p>
      {photo.renditions.length > 0 && <Cropped photo={photo} crop={cell.crop} name={name} />}
      {cell.pixelsPerInch !== null && <p>{cell.sentence || w.fit.perInch(cell.pixelsPerInch)}</p>}
      {cell.pixelsPerInch === null && cell.sentence && <p>{cell.sentence}</p>}
      {cell.lost !== null && (
        <p className="text-quiet">
          {w.fit.lostLong(cell.lost)} {cell.round > 0 && w.fit.round(cell.round)}
        </p>
      )}
      {w.fit.why[cell.why] && <p className="border-l-[3px] border-plum pl-3">{w.fit.why[cell.why]}</p>}
      {(cell.why === 'no' || off) && (
        <p>
          <Button disabled={turn.isPending} onClick={() => turn.mutate(undefined)}>
            {off ? w.fit.putBack : w.fit.takeOff}
          </Button>
        </p>
      )}
    </div>
  )
}

/** The photo with what a print leaves out laid over. */
function Cropped({ photo, crop, name }: { photo: Api['FitPhoto']; crop: Cell['crop']; name: string }) {
  const width = fitting(photo.renditions, 480)
  return (
    <svg
      viewBox={`0 0 ${photo.width} ${photo.height}`}
      role="img"
      aria-label={name}
      className="max-h-64 w-full object-contain"
    >
      <image
        href={rendition(photo.picture, width ?? 480)}
        width={photo.width}
        height={photo.height}
        preserveAspectRatio="none"
      />
      {crop && (
        <>
          <path
            fillRule="evenodd"
            className="fill-paper"
            opacity="0.72"
            d={`M0 0H${photo.width}V${photo.height}H0Z M${crop.x * photo.width} ${crop.y * photo.height}h${crop.width * photo.width}v${crop.height * photo.height}h${-crop.width * photo.width}Z`}
          />
          <rect
            x={crop.x * photo.width}
            y={crop.y * photo.height}
            width={crop.width * photo.width}
            height={crop.height * photo.height}
            fill="none"
            className="stroke-plum"
            strokeWidth={photo.width / 160}
          />
        </>
      )}
    </svg>
  )
}
