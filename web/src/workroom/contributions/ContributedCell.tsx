import { Link } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { type Contributed, nameOf, pictureOf } from './data'

/** A photo that was sent in, with its words; pressed, it is chosen. */
export function ContributedCell({
  photo,
  contribution,
  on,
  onTurn,
  onLarger,
}: {
  photo: Contributed
  contribution: string
  on: boolean
  /** Null where nothing can be decided on it any more. */
  onTurn: (() => void) | null
  onLarger: () => void
}) {
  const name = nameOf(photo)
  const picture = photo.hasPicture ? (
    <img
      src={pictureOf(photo.id, 480)}
      alt=""
      width={photo.width}
      height={photo.height}
      loading="lazy"
      className={`h-auto max-h-[11rem] w-auto max-w-full ${photo.state === 'refused' ? 'opacity-50' : ''} ${on ? 'outline-3 outline-offset-2 outline-plum' : ''}`}
    />
  ) : (
    <span className="text-small text-quiet">{w.contributions.noPicture}</span>
  )
  return (
    <li className="min-w-0">
      {onTurn ? (
        <button
          type="button"
          aria-pressed={on}
          aria-label={w.contributions.choose(name)}
          className="grid h-[11.5rem] w-full items-end justify-items-start"
          onClick={onTurn}
          onDoubleClick={onLarger}
        >
          {picture}
        </button>
      ) : (
        <span className="grid h-[11.5rem] items-end justify-items-start">{picture}</span>
      )}
      <p className={`mt-1.5 truncate ${photo.title ? 'font-semibold' : 'text-quiet'}`} title={name}>
        {name}
      </p>
      {photo.caption && (
        <p className="line-clamp-3 text-small" title={photo.caption}>
          {photo.caption}
        </p>
      )}
      <p className="text-small text-quiet">
        {photo.state !== 'waiting' &&
          (photo.isComing ? w.contributions.comingIn : w.contributions.states[photo.state](photo.decidedBy))}
        {photo.state === 'refused' && photo.reason && `: ${photo.reason}`}
        {photo.state === 'waiting' && photo.isHere && w.contributions.isHere}
      </p>
      <p className="flex flex-wrap gap-x-4 text-small">
        {photo.hasPicture && (
          <Button look="word" aria-label={w.contributions.largerOf(name)} onClick={onLarger}>
            {w.contributions.larger}
          </Button>
        )}
        {photo.photo && (
          <Link to="/workroom/photos" search={{ photo: photo.photo }} className={asWord}>
            {w.contributions.seePhoto}
          </Link>
        )}
        {photo.state === 'refused' && photo.canAccept && (
          <AfterAll contribution={contribution} photo={photo.id} />
        )}
      </p>
    </li>
  )
}

function AfterAll({ contribution, photo }: { contribution: string; photo: string }) {
  const accept = useAct(() =>
    body(
      api.POST('/api/contributions/{contribution}/accept', {
        params: { path: { contribution } },
        body: { photos: [photo] },
      }),
      w.errors.away,
    ),
  )
  return (
    <Button look="word" disabled={accept.isPending} onClick={() => accept.mutate(undefined)}>
      {w.contributions.afterAll}
    </Button>
  )
}
