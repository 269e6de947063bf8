import { Link } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import type { Api } from '../../api/client'
import { w } from '../../words'
import { moment } from '../shell/format'

type Record = Api['RecordLine']

const link = 'underline decoration-strong-line decoration-1 underline-offset-4'

/** Who did what with what, and when. */
export function RecordRow({
  record,
  isTheirs,
}: {
  record: Record
  /** All that is listed is of one of them: it need not be said each time. */
  isTheirs: boolean
}) {
  const { who, member, entry, what, at, photo, photoName, network } = record
  return (
    <li className="grid grid-cols-[11rem_minmax(0,1fr)_auto] items-baseline gap-x-6 border-t border-line py-2 max-md:grid-cols-1">
      <span className="text-small whitespace-nowrap text-quiet tabular-nums">{moment(at)}</span>
      <span className="min-w-0">
        {!isTheirs && (
          <>
            {who ? (
              <Link
                to="/workroom/records"
                search={member ? { member } : entry ? { entry } : {}}
                className="font-semibold hover:underline"
              >
                {who}
              </Link>
            ) : (
              w.records.somebody
            )}{' '}
          </>
        )}
        {w.records.did[what]}{' '}
        {what === 'saved' && (
          <>
            {photo && photoName ? (
              <Link to="/workroom/photos" search={{ photo }} className={link}>
                {photoName}
              </Link>
            ) : (
              w.records.photo
            )}{' '}
            {w.records.in}{' '}
          </>
        )}
        <Thing record={record}>{record.called}</Thing>
      </span>
      <span className="text-small text-quiet">{network && w.records.from(network)}</span>
    </li>
  )
}

/** What it was done with, as it is called now. */
function Thing({ record: { kind, thing, called }, children }: { record: Record; children: ReactNode }) {
  if (kind === 'album' && called)
    return (
      <Link to="/workroom/albums/$album" params={{ album: thing }} className={link}>
        {children}
      </Link>
    )
  if (kind === 'page' && called)
    return (
      <Link to="/workroom/pages/$page" params={{ page: thing }} className={link}>
        {children}
      </Link>
    )
  if (called) return <span>“{children}”</span>
  return <span>{w.records.gone[kind as keyof typeof w.records.gone]}</span>
}
