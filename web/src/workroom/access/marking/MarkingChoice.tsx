import { type Api, api, body } from '../../../api/client'
import { w } from '../../../words'
import { tellDone } from '../../shell/news'
import { useSaying } from '../../shell/useSaying'
import { WhomChoice } from '../WhomChoice'

/** Who gets the photos of a thing without the watermark, as a word of a sentence; where it is some, these stand behind it. */
export function MarkingChoice({ shown, label }: { shown: Api['MarkingShown']; label: string }) {
  const { kind, thing, marking, called } = shown
  const say = useSaying(
    marking,
    (next, was) =>
      body(
        api.PUT('/api/markings/{kind}/{thing}', {
          params: { path: { kind, thing } },
          body: { marking: next, was },
        }),
        w.errors.away,
      ),
    (done) => tellDone(w.watermark.said, done),
    'watermark',
  )
  return <WhomChoice whom={marking} called={called} label={label} words={w.watermark.spared} onSay={say} />
}
