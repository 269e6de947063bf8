import { Link } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { Button, KeyHint } from '../../kit/Button'
import { w } from '../../words'
import { AudienceWords } from '../access/AudienceWords'
import { PhotoClearance } from '../clearance/ClearPhotos'
import { useAct } from '../shell/data'
import { bytes, exposure, printSize } from '../shell/format'
import { tellDone } from '../shell/news'
import { PlateHistory } from './PlateHistory'

/** Leaves the photo out everywhere, or uses it again. */
function LeaveOut({ plate }: { plate: Api['Plate'] }) {
  const out = plate.decision === 'leave_out'
  const decide = useAct(
    (decision: string) =>
      body(
        api.PATCH('/api/photos/{photo}', {
          params: { path: { photo: plate.id }, header: { 'If-Match': plate.version } },
          body: { decision },
        }),
        w.errors.away,
      ),
    ({ done }) => tellDone(out ? w.plate.usedAgain : w.plate.leftOut, done),
  )
  return (
    <Button look="word" className="min-h-6" onClick={() => decide.mutate(out ? '' : 'leave_out')}>
      {out ? w.plate.useAgain : w.plate.leaveOut}
    </Button>
  )
}

/** What is known of a photo without anybody typing it: when, where it stands, who sees it, how it was taken. */
export function PlateFacts({ plate }: { plate: Api['Plate'] }) {
  const [wide, high] = printSize(plate.width, plate.height)
  const made = [plate.camera, plate.lens, ...exposure(plate)].filter(Boolean).join(', ')
  return (
    <div className="text-small leading-[1.7]">
      <div className="mt-3.5 border-t border-line pt-3.5">
        {plate.albums.length > 0 ? (
          <p>
            <span className="text-quiet">{w.plate.stands}</span>{' '}
            {plate.albums.map((a, i) => (
              <span key={a.id}>
                {i > 0 && ', '}
                <Link
                  to="/workroom/albums/$album"
                  params={{ album: a.id }}
                  className="underline decoration-strong-line decoration-1 underline-offset-4"
                >
                  {a.workingName}
                </Link>{' '}
                <span className="text-quiet">{w.plate.noPosition(a.position)}</span>
              </span>
            ))}
          </p>
        ) : (
          <p>{w.plate.nowhere}</p>
        )}
        <p>
          <AudienceWords line={plate.audience} of={{ kind: 'photo', id: plate.id }} />{' '}
          <LeaveOut plate={plate} />
        </p>
        <p>
          <PhotoClearance plate={plate} />
        </p>
        {plate.views > 0 && <p>{w.plate.seen(plate.views)}</p>}
        {plate.rated && <p>{w.plate.rated(plate.rated)}</p>}
      </div>
      <div className="mt-3.5 border-t border-line pt-3.5">
        <p>
          {plate.fileName}, {plate.width} × {plate.height}, {bytes(plate.bytes)}
          {plate.corrected && `, ${w.plate.corrected}`}
        </p>
        {made && <p>{made}</p>}
        <p>{w.plate.prints(wide, high)}</p>
        {plate.alike > 0 && (
          <p>
            <Link
              to="/workroom/repeats"
              search={{ of: plate.id }}
              className="underline decoration-strong-line decoration-1 underline-offset-4"
            >
              {w.repeats.others(plate.alike)}
            </Link>{' '}
            <KeyHint>Q</KeyHint>
          </p>
        )}
        <p>
          <a
            href={`/api/photos/${plate.id}/original`}
            download
            className="underline decoration-strong-line decoration-1 underline-offset-4"
          >
            {w.plate.original}
          </a>
          {', '}
          <a
            href={`/api/photos/${plate.id}/written`}
            download
            className="underline decoration-strong-line decoration-1 underline-offset-4"
          >
            {w.leaving.one}
          </a>
        </p>
      </div>
      <PlateHistory photo={plate.id} />
    </div>
  )
}
