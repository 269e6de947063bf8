import { RadioGroup } from 'radix-ui'
import { Fragment, useState } from 'react'
import { Choice } from '../../../kit/Button'
import { w } from '../../../words'
import { ChosenOnes } from './ChosenOnes'
import { type Audience, type AudienceOf, type Chosen, fieldOf, momentOf } from './data'

const whom = ['everyone', 'withLink', 'members', 'chosen', 'holders', 'staff'] as const

/** Whom a thing lets in, and in which time. */
export function AudienceChoice({
  kind,
  audience,
  chosen,
  onChange,
}: {
  kind: AudienceOf['kind']
  audience: Audience
  /** The groups and members that it was for when it was looked at. */
  chosen: readonly Chosen[]
  onChange: (audience: Audience) => void
}) {
  const [all, setAll] = useState(chosen)
  const [timed, setTimed] = useState(!!audience.from || !!audience.until)
  function choose(next: readonly Chosen[]) {
    setAll(next)
    onChange({ ...audience, chosen: next.map((c) => c.id).sort() })
  }
  const time = (which: 'from' | 'until') => (
    <label>
      {w.audience[which]}{' '}
      <input
        type="datetime-local"
        className="border-b border-strong-line bg-transparent outline-none focus:border-plum"
        defaultValue={fieldOf(audience[which])}
        onChange={(e) => onChange({ ...audience, [which]: momentOf(e.target.value) })}
      />
    </label>
  )
  return (
    <>
      <RadioGroup.Root
        aria-label={w.audience.who}
        value={audience.who}
        onValueChange={(who) => onChange({ ...audience, who: who as Audience['who'] })}
      >
        {whom
          // An entry link leads to a place, and a photo by itself is none; albums alone are found by their link.
          .filter(
            (who) => (who !== 'holders' || kind !== 'photo') && (who !== 'withLink' || kind === 'album'),
          )
          .map((who) => (
            <Fragment key={who}>
              <RadioGroup.Item
                value={who}
                className="grid w-full grid-cols-[1.5rem_minmax(0,1fr)] items-baseline border-t border-line py-2.5 text-left"
              >
                <span
                  aria-hidden
                  className={`mt-0.5 block size-3 self-start rounded-full border ${audience.who === who ? 'border-plum bg-plum' : 'border-strong-line'}`}
                />
                <span>
                  <span className={`block ${audience.who === who ? 'font-semibold' : ''}`}>
                    {w.audience.choices[who][0]}
                  </span>
                  <span className="block text-small text-quiet">
                    {kind === 'photo' && who !== 'holders' && who !== 'withLink'
                      ? w.audience.ofPhoto[who]
                      : w.audience.choices[who][1]}
                  </span>
                </span>
              </RadioGroup.Item>
              {who === 'chosen' && audience.who === who && (
                <ChosenOnes
                  all={all}
                  onChoose={(one) => choose([...all, one])}
                  onLeaveOut={(one) => choose(all.filter((c) => c.id !== one.id))}
                />
              )}
            </Fragment>
          ))}
      </RadioGroup.Root>
      <p className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-t border-line py-2.5 pl-6">
        <Choice
          on={!timed}
          onClick={() => {
            setTimed(false)
            onChange({ ...audience, from: null, until: null })
          }}
        >
          {w.audience.always}
        </Choice>
        <Choice on={timed} onClick={() => setTimed(true)}>
          {w.audience.time}
        </Choice>
        {timed && (
          <>
            {time('from')}
            {time('until')}
          </>
        )}
      </p>
    </>
  )
}
