import { useRef, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { copy } from '../../kit/copy'
import { w } from '../../words'

/** The link of an invitation that was just written, to hand on oneself. */
export function TheLink({ name, link: { link, hasLetter } }: { name: string; link: Api['InvitationLink'] }) {
  const field = useRef<HTMLInputElement>(null)
  const [told, setTold] = useState('')
  async function take() {
    const copied = await copy(link)
    if (!copied) field.current?.select()
    setTold(copied ? w.people.copied : w.people.byHand)
  }
  return (
    <div role="status" className="border-l-2 border-plum pl-4">
      <p>{hasLetter ? w.people.sent(name) : w.people.link(name)}</p>
      <input
        ref={field}
        readOnly
        aria-label={w.people.linkLabel}
        value={link}
        className="mt-2 w-full truncate border-b border-line bg-transparent py-1 text-small outline-none focus:border-plum"
        onFocus={(e) => e.currentTarget.select()}
      />
      <p className="mt-2 flex flex-wrap items-baseline gap-x-4">
        <Button look="word" onClick={() => void take()}>
          {w.people.copy}
        </Button>
        <span className="text-small text-quiet">{told}</span>
      </p>
      <p className="mt-1 text-small text-quiet">{w.people.linkOnce}</p>
    </div>
  )
}
