import { useState } from 'react'
import { ApiProblem, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { w } from '../../../words'
import { useAct } from '../../shell/data'
import { tellDone } from '../../shell/news'
import { AudienceChoice } from './AudienceChoice'
import { type Audience, type AudienceOf, type Chosen, pathOf, useForecast } from './data'

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
  const forecast = useForecast(of, audience, was)
  const same = JSON.stringify(audience) === JSON.stringify(was)
  const say = useAct(
    () =>
      body(
        api.PUT('/api/audiences/{kind}/{thing}', { ...pathOf(of), body: { audience, was } }),
        w.errors.away,
      ),
    (done) => tellDone(w.audience.said(name), done),
  )
  return (
    <div className="mt-4">
      <AudienceChoice kind={of.kind} audience={audience} chosen={chosen} onChange={setAudience} />
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
