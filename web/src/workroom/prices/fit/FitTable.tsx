import { Link } from '@tanstack/react-router'
import { type Api, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { rendition } from '../../../kit/renditions'
import { w } from '../../../words'
import { useAct } from '../../shell/data'
import { tellDone } from '../../shell/news'
import { FitCell } from './FitCell'
import { FitPopover } from './FitPopover'

/** Photos down, options across; the names of the options stay where they are. */
export function FitTable({
  album,
  list,
  photos,
}: {
  album: string
  list: Api['FitList']
  photos: readonly Api['FitPhoto'][]
}) {
  return (
    <div className="relative max-h-[calc(100vh-15rem)] overflow-auto border-y border-line">
      <table className="border-separate border-spacing-0 text-small">
        <thead>
          <tr>
            <th
              scope="col"
              className="sticky top-0 left-0 z-20 min-w-52 border-b border-line bg-paper text-left font-semibold"
            >
              <span className="sr-only">{w.fit.photo}</span>
            </th>
            {list.options.map((option) => (
              <th
                key={option.id}
                scope="col"
                className="sticky top-0 z-10 w-[4.75rem] min-w-[4.75rem] border-b border-line bg-paper px-1.5 pt-1.5 pb-2 text-left align-bottom font-normal"
              >
                <OptionHead album={album} option={option} photos={list.photos} />
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {photos.map((photo) => (
            <tr key={photo.id}>
              <th
                scope="row"
                className="sticky left-0 z-[5] border-b border-line bg-paper py-1.5 pr-3 text-left font-normal"
              >
                <Link
                  to="/workroom/albums/$album"
                  params={{ album }}
                  search={{ photo: photo.id }}
                  className="grid grid-cols-[3.5rem_minmax(0,1fr)] items-center gap-x-3"
                >
                  {photo.renditions.length > 0 ? (
                    <img
                      src={rendition(photo.picture, 240)}
                      alt=""
                      width={photo.width}
                      height={photo.height}
                      loading="lazy"
                      className="h-10 w-14 object-contain object-left"
                    />
                  ) : (
                    <span className="h-10 w-14 bg-well" aria-hidden />
                  )}
                  <span className="min-w-0">
                    <span className="block max-w-36 truncate">{photo.title || photo.fileName}</span>
                    <span className="block text-quiet tabular-nums">
                      {photo.width} × {photo.height}
                    </span>
                  </span>
                </Link>
              </th>
              {list.options.map((option, i) => {
                const cell = photo.cells[i]
                return (
                  <td key={option.id} className="border-b border-line px-0.5">
                    {cell && <FitCell photo={photo} option={option} cell={cell} />}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** What an option is called, and of how many it is offered; pressed, the album is sold without it. */
function OptionHead({ album, option, photos }: { album: string; option: Api['FitOption']; photos: number }) {
  const turn = useAct(
    async () => {
      const path = { album }
      const was = await body(api.GET('/api/albums/{album}/selling', { params: { path } }), w.errors.away)
      const without = option.here ? [...was.without, option.id] : was.without.filter((id) => id !== option.id)
      return body(
        api.PUT('/api/albums/{album}/selling', {
          params: { path },
          body: { selling: { ...was, without }, was },
        }),
        w.errors.away,
      )
    },
    (done) => tellDone(w.selling.said, done),
    'selling',
  )
  const { fits } = option
  const sized = fits.good + fits.fair + fits.poor + fits.tooSmall > 0
  return (
    <FitPopover
      label={option.called}
      trigger={
        <button
          type="button"
          className={`min-h-6 text-left leading-snug decoration-strong-line underline-offset-4 hover:underline ${option.here && option.offered ? 'font-semibold' : 'text-quiet line-through'}`}
        >
          {option.called}
          <span className="block font-normal text-quiet tabular-nums no-underline">{option.price}</span>
        </button>
      }
    >
      {(close) => (
        <div className="grid gap-2">
          <p className="font-display text-lead font-semibold">{option.called}</p>
          <p>{w.fit.option(fits.offered, photos)}</p>
          {sized && (
            <p className="text-quiet">{w.fit.sizes(fits.good, fits.fair, fits.poor, fits.tooSmall)}</p>
          )}
          {option.offered ? (
            <p>
              <Button
                onClick={() => {
                  close()
                  turn.mutate(undefined)
                }}
              >
                {option.here ? w.fit.takeOffAlbum : w.fit.putBackAlbum}
              </Button>
            </p>
          ) : (
            <p className="text-quiet">{w.fit.why.byList}</p>
          )}
        </div>
      )}
    </FitPopover>
  )
}
