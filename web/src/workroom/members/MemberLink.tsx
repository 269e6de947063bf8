import { useRef, useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { copy } from '../../kit/copy'
import { w } from '../../words'
import { useAct } from '../shell/data'
import type { Member } from './data'

/** A link that signs a member in once, to be handed on; it is shown when it is made and never again. */
export function MemberLink({ member }: { member: Member }) {
  const field = useRef<HTMLInputElement>(null)
  const [link, setLink] = useState('')
  const [told, setTold] = useState('')
  const make = useAct(
    () =>
      body(
        api.POST('/api/members/{member}/link', { params: { path: { member: member.id } } }),
        w.errors.away,
      ),
    (made) => setLink(made.link),
  )
  async function take() {
    const copied = await copy(link)
    if (!copied) field.current?.select()
    setTold(copied ? w.members.copied : w.members.byHand)
  }
  return (
    <span>
      {link ? (
        <>
          <input
            ref={field}
            readOnly
            aria-label={w.members.linkOf(member.name)}
            value={link}
            className="w-full truncate border-b border-line bg-transparent py-1 text-small outline-none focus:border-plum"
            onFocus={(e) => e.currentTarget.select()}
          />
          <span className="mt-1 flex flex-wrap items-baseline gap-x-4">
            <Button look="word" onClick={() => void take()}>
              {w.members.copy}
            </Button>
            <span role="status" className="text-small text-quiet">
              {told}
            </span>
          </span>
        </>
      ) : (
        <Button look="word" onClick={() => make.mutate(undefined)}>
          {w.members.link}
        </Button>
      )}
      <span className="mt-1 block text-small text-quiet">{w.members.linkWhat}</span>
    </span>
  )
}
