import { useState } from 'react'
import type { Api } from '../../../../api/client'
import { Button } from '../../../../kit/Button'
import { FileVerb } from '../../../../kit/FileVerb'
import { WordSelect } from '../../../../kit/WordSelect'
import { w } from '../../../../words'
import { usualPress } from '../blocks'
import { Fold, Says, Toggle } from '../Parts'

type Press = Api['PressSettings']

const words = ['title', 'caption', 'place', 'date', 'camera', 'credit', 'licence', 'fileName'] as const
/** A larger drawing is no sign, UTF-16 code units; as in Core. */
const largest = 20_000

/** What a press on a photo does, what says so before, and what stands in the viewer. */
export function PressFold({ press, onSay }: { press: Press; onSay: (press: Press) => void }) {
  return (
    <Fold
      name={w.press.fold}
      changed={JSON.stringify(press) !== JSON.stringify(usualPress)}
      onUsual={() => onSay(usualPress)}
    >
      <Says>
        <span>{w.press.lead}</span>
        <WordSelect
          label={w.press.label}
          value={press.to}
          choices={(['viewer', 'link', 'album', 'nothing'] as const).map(
            (to) => [to, w.press.to[to]] as const,
          )}
          onChoose={(to) => onSay({ ...press, to, sign: signFor(to, press.sign) })}
        />
      </Says>
      {press.to !== 'nothing' && <SignSentence press={press} onSay={onSay} />}
      <Says>
        <span>{w.press.words}</span>
        {words.map((word) => (
          <Toggle
            key={word}
            on={press.words.includes(word)}
            words={w.press.word[word]}
            onSay={(on) =>
              onSay({
                ...press,
                words: words.filter((each) => (each === word ? on : press.words.includes(each))),
              })
            }
          />
        ))}
      </Says>
      <Says>
        <span>{w.press.save}</span>
        <WordSelect
          label={w.press.saveLabel}
          value={press.save}
          choices={(['nothing', 'large', 'full'] as const).map(
            (save) => [save, w.press.saves[save]] as const,
          )}
          onChoose={(save) => onSay({ ...press, save })}
        />
      </Says>
    </Fold>
  )
}

/** Who has photos lead elsewhere wants to have it said before; nobody needs to be told what photos usually do. */
function signFor(to: Press['to'], sign: Press['sign']): Press['sign'] {
  const leads = to === 'link' || to === 'album'
  return leads && sign === 'never' ? 'always' : sign
}

function SignSentence({ press, onSay }: { press: Press; onSay: (press: Press) => void }) {
  const [fault, setFault] = useState('')
  async function bring(drawing: File) {
    if (drawing.size > largest) return setFault(w.press.tooLarge)
    const text = await drawing.text()
    setFault(/<svg[\s>]/.test(text) ? '' : w.press.noDrawing)
    if (/<svg[\s>]/.test(text)) onSay({ ...press, drawing: text })
  }
  return (
    <>
      <Says>
        <WordSelect
          label={w.press.signLabel}
          value={press.sign}
          choices={(['never', 'hover', 'always'] as const).map((sign) => [sign, w.press.sign[sign]] as const)}
          onChoose={(sign) => onSay({ ...press, sign })}
        />
        {press.sign !== 'never' && (
          <>
            <span>{press.drawing ? w.press.own : w.press.ours}</span>
            <FileVerb
              label={w.press.bring}
              accept=".svg,image/svg+xml"
              onFile={(drawing) => void bring(drawing)}
            >
              {press.drawing ? w.press.another : w.press.bring}
            </FileVerb>
            {press.drawing && (
              <Button look="word" onClick={() => onSay({ ...press, drawing: '' })}>
                {w.press.back}
              </Button>
            )}
          </>
        )}
      </Says>
      {fault && <p role="alert">{fault}</p>}
    </>
  )
}
