import { asWord } from '../../../kit/Button'
import { w } from '../../../words'
import type { AudienceOf } from './data'

/** Opens the site as some visitor has it, at a thing or where it begins. */
export function SeeAs({
  as,
  who,
  at,
  children = w.viewers.seeAs,
}: {
  /** A kind of visitor, and which of them: "group-" with its id. */
  as: string
  /** What they are called: for those who hear the button. */
  who: string
  at?: AudienceOf
  children?: string
}) {
  return (
    <form method="post" action="/site/as" target="_blank" className="inline" rel="noopener">
      <input type="hidden" name="as" value={as} />
      {at && (
        <>
          <input type="hidden" name="kind" value={at.kind} />
          <input type="hidden" name="thing" value={at.id} />
        </>
      )}
      <button type="submit" className={`min-h-6 text-small ${asWord}`} aria-label={w.viewers.seeAsOf(who)}>
        {children}
      </button>
    </form>
  )
}
