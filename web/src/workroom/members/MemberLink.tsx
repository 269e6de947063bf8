import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { HandOn } from '../shell/HandOn'
import type { Member } from './data'

/** A link that signs a member in once, to be handed on; it is shown when it is made and never again. */
export function MemberLink({ member }: { member: Member }) {
  const [link, setLink] = useState('')
  const make = useAct(
    () =>
      body(
        api.POST('/api/members/{member}/link', { params: { path: { member: member.id } } }),
        w.errors.away,
      ),
    (made) => setLink(made.link),
  )
  return (
    <span>
      {link ? (
        <HandOn link={link} label={w.members.linkOf(member.name)} words={w.members} />
      ) : (
        <Button look="word" onClick={() => make.mutate(undefined)}>
          {w.members.link}
        </Button>
      )}
      <span className="mt-1 block text-small text-quiet">{w.members.linkWhat}</span>
    </span>
  )
}
