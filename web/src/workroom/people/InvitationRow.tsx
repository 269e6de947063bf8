import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { tell } from '../shell/news'
import { TheLink } from './TheLink'

/** Somebody who was asked and has not come yet: how far the letter is, and until when the link is good. */
export function InvitationRow({ invitation: i }: { invitation: Api['InvitationLine'] }) {
  const path = { params: { path: { invitation: i.id } } }
  const [link, setLink] = useState<Api['InvitationLink'] | null>(null)
  const again = useAct(
    () => body(api.POST('/api/people/invitations/{invitation}/again', path), w.errors.away),
    setLink,
  )
  const takeBack = useAct(
    () => body(api.DELETE('/api/people/invitations/{invitation}', path), w.errors.away),
    () => tell({ text: w.people.tookBack(i.name) }),
  )
  const stuck = i.letter === 'failed' || i.fault !== ''
  return (
    <li className="border-t border-line py-2.5">
      <div className="grid min-h-11 grid-cols-[minmax(0,1fr)_5.5rem_11rem_5.75rem] items-center gap-x-4 gap-y-1 max-sm:grid-cols-[minmax(0,1fr)_auto]">
        <span className="min-w-0">
          <span className="block truncate font-semibold" title={i.name}>
            {i.name}
          </span>
          <span className="block truncate text-small text-quiet" title={i.email}>
            {i.email}
          </span>
        </span>
        <span>{i.handsOver ? w.people.takesOver : w.people.asPart(w.people.parts[i.role])}</span>
        <span className="min-w-0 text-small text-quiet">
          <span className={`block ${stuck || i.isOver ? 'font-semibold text-ink' : ''}`}>
            {i.isOver ? w.people.over : w.people.letter[i.letter]}
          </span>
          {!i.isOver && i.fault !== '' && (
            <span className="block">
              {i.fault} {i.letter === 'waiting' && w.people.later}
            </span>
          )}
          <span className="block" title={w.people.by(i.by, moment(i.made))}>
            {!i.isOver && w.people.goodUntil(moment(i.expires))}
          </span>
        </span>
        <span className="grid justify-items-start gap-y-1">
          <Button look="word" disabled={again.isPending} onClick={() => again.mutate(undefined)}>
            {w.people.again}
          </Button>
          <Button look="word" disabled={takeBack.isPending} onClick={() => takeBack.mutate(undefined)}>
            {w.people.takeBack}
          </Button>
        </span>
      </div>
      {link && (
        <div className="mt-3 max-w-[34rem]">
          <TheLink name={i.name} link={link} />
        </div>
      )}
    </li>
  )
}
