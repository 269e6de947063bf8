import { RadioGroup } from 'radix-ui'
import { Fragment, useState } from 'react'
import { ApiProblem, api, body } from '../../../api/client'
import { Button, Choice } from '../../../kit/Button'
import { w } from '../../../words'
import { useAct } from '../../shell/data'
import { tell } from '../../shell/news'
import { ChosenOnes } from './ChosenOnes'
import { type Audience, type AudienceOf, type Chosen, fieldOf, momentOf, pathOf, useForecast } from './data'

const whom = ['everyone', 'members', 'chosen', 'holders', 'staff'] as const

/** Whom a thing lets in, and in which time; before it is so, it says who gains and who loses. */
export function AudienceForm({
  of,
  name,
  was,
  chosen,
  above,
}: {
  of: AudienceOf
  name: string
  was: Audience
  chosen: readonly Chosen[]
  above: readonly string[]
}) {
  const [audience, setAudience] = useState(was)
  const [all, setAll] = useState(chosen)
  const [timed, setTimed] = useState(!!was.from || !!was.until)
  const forecast = useForecast(of, audience, was)
  const same = JSON.stringify(audience) === JSON.stringify(was)
  const say = useAct(
    () =>
      body(
        api.PUT('/api/audiences/{kind}/{thing}', { ...pathOf(of), body: { audience, was } }),
        w.errors.away,
      ),
    () => tell({ text: w.audience.said(name) }),
  )
  const time = (which: 'from' | 'until') => (
    <label>
      {w.audience[which]}{' '}
      <input
        type="datetime-local"
        className="border-b border-strong-line bg-transparent outline-none focus:border-plum"
        defaultValue={fieldOf(audience[which])}
        onChange={(e) => setAudience({ ...audience, [which]: momentOf(e.target.value) })}
      />
    </label>
  )
  return (
    <div className="mt-4">
      <RadioGroup.Root
        aria-label={w.audience.who}
        value={audience.who}
        onValueChange={(who) => setAudience({ ...audience, who: who as Audience['who'] })}
      >
        {whom.map((who) => (
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
                <span className="block text-small text-quiet">{w.audience.choices[who][1]}</span>
              </span>
            </RadioGroup.Item>
            {who === 'chosen' && audience.who === who && (
              <ChosenOnes
                all={all}
                onChange={(next) => {
                  setAll(next)
                  setAudience({ ...audience, chosen: next.map((c) => c.id).sort() })
                }}
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
            setAudience({ ...audience, from: null, until: null })
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
      {above.length > 0 && (
        <div className="border-t border-line py-2.5 pl-6">
          <h3 className="text-small font-semibold">{w.audience.besides}</h3>
          {above.map((each) => (
            <p key={each}>{each}</p>
          ))}
        </div>
      )}
      {!same && (
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-2 border-t border-line pt-4 pl-6">
          <Button
            look="next"
            disabled={forecast.isError || say.isPending}
            onClick={() => say.mutate(undefined)}
          >
            {w.audience.say}
          </Button>
          <span role="status">
            {forecast.error instanceof ApiProblem ? (
              <span className="font-semibold">{forecast.error.message}</span>
            ) : (
              forecast.data?.sentence
            )}
          </span>
        </div>
      )}
    </div>
  )
}
