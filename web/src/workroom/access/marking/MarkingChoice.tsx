import { useState } from 'react'
import { type Api, api, body } from '../../../api/client'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { useAct } from '../../shell/data'
import { tellDone } from '../../shell/news'
import { ChosenOnes } from '../audience/ChosenOnes'

type Spared = Api['Spared']

const whom = (['everyone', 'known', 'members', 'chosen', 'nobody'] as const).map(
  (who) => [who, w.watermark.spared[who]] as const,
)

/** Who gets the photos of a thing without the watermark, as a word of a sentence; where it is some, these stand behind it. */
export function MarkingChoice({ shown, label }: { shown: Api['MarkingShown']; label: string }) {
  const { kind, thing, marking, called } = shown
  // Groups and members are said once there is one.
  const [naming, setNaming] = useState(false)
  const say = useAct(
    (next: { who: Spared; chosen: string[] }) =>
      body(
        api.PUT('/api/markings/{kind}/{thing}', {
          params: { path: { kind, thing } },
          body: { marking: next, was: marking },
        }),
        w.errors.away,
      ),
    (done) => tellDone(w.watermark.said, done),
    'watermark',
  )
  const who = naming ? 'chosen' : marking.who
  return (
    <>
      <WordSelect
        label={label}
        value={who}
        choices={whom}
        onChoose={(next) => {
          setNaming(next === 'chosen')
          if (next !== 'chosen') say.mutate({ who: next, chosen: [] })
        }}
      />
      {who === 'chosen' && (
        <ChosenOnes
          all={marking.who === 'chosen' ? called : []}
          onChange={(all) => {
            // Without anyone it is for nobody, and that is said by its own word.
            if (all.length === 0) say.mutate({ who: 'nobody', chosen: [] })
            else say.mutate({ who: 'chosen', chosen: all.map((c) => c.id) })
            setNaming(false)
          }}
        />
      )}
    </>
  )
}
