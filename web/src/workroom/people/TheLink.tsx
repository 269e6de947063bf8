import type { Api } from '../../api/client'
import { w } from '../../words'
import { HandOn } from '../shell/HandOn'

/** The link of an invitation that was just written, to hand on oneself. */
export function TheLink({ name, link: { link, hasLetter } }: { name: string; link: Api['InvitationLink'] }) {
  return (
    <div role="status" className="border-l-2 border-plum pl-4">
      <p className="mb-2">{hasLetter ? w.people.sent(name) : w.people.link(name)}</p>
      <HandOn link={link} label={w.people.linkLabel} words={w.people} />
      <p className="mt-1 text-small text-quiet">{w.people.linkOnce}</p>
    </div>
  )
}
