import type { Api } from '../../../../api/client'
import { ColourWords } from '../../../../kit/ColourWords'
import { NumberWord } from '../../../../kit/NumberWord'
import { WordSelect } from '../../../../kit/WordSelect'
import { w } from '../../../../words'
import { usualTouch } from '../blocks'
import { Fold, Says } from '../Parts'
import { Devices } from './Devices'

type Touch = Api['FrameTouch']
type TouchSet = Api['TouchSet']

/** What becomes of a photo under the pointer, a finger or the keyboard, and how photos come into view. */
export function TouchFold({
  touch,
  hasWordsOver,
  onSay,
}: {
  touch: Touch
  /** Words come over the photos when they are touched. */
  hasWordsOver: boolean
  onSay: (touch: Touch) => void
}) {
  return (
    <Fold
      name={w.frames.touch}
      changed={JSON.stringify(touch) !== JSON.stringify(usualTouch)}
      onUsual={() => onSay(usualTouch)}
    >
      <Devices each={touch} onSay={(next) => onSay({ ...touch, ...next })}>
        {(set, say) => <TouchSentences set={set} hasWordsOver={hasWordsOver} onSay={say} />}
      </Devices>
    </Fold>
  )
}

function TouchSentences({
  set,
  hasWordsOver,
  onSay,
}: {
  set: TouchSet
  hasWordsOver: boolean
  onSay: (set: TouchSet) => void
}) {
  const say = (next: Partial<TouchSet>) => onSay({ ...set, ...next })
  return (
    <>
      <Says>
        <span>{w.frames.touched}</span>
        <WordSelect
          label={w.frames.zoomLabel}
          value={set.zoom}
          choices={(['none', 'in', 'out'] as const).map((zoom) => [zoom, w.frames.zoom[zoom]] as const)}
          onChoose={(zoom) => say({ zoom })}
        />
        {set.zoom !== 'none' && (
          <Percent
            label={w.frames.zoomBy}
            value={set.zoomBy}
            most={30}
            after={w.frames.percentComma}
            onSay={(zoomBy) => say({ zoomBy })}
          />
        )}
        <WordSelect
          label={w.frames.toneLabel}
          value={set.tone}
          choices={(['none', 'lighter', 'darker', 'toGrey', 'fromGrey'] as const).map(
            (tone) => [tone, w.frames.tone[tone]] as const,
          )}
          onChoose={(tone) => say({ tone, toneBy: tone.endsWith('Grey') ? 100 : Math.min(set.toneBy, 20) })}
        />
        {set.tone !== 'none' && (
          <Percent
            label={w.frames.toneBy}
            value={set.toneBy}
            most={100}
            after={w.frames.percent}
            onSay={(toneBy) => say({ toneBy })}
          />
        )}
      </Says>
      <Says>
        <WordSelect
          label={w.frames.tintLabel}
          value={set.tint}
          choices={(['none', 'even', 'gradient'] as const).map(
            (tint) => [tint, w.frames.tint[tint]] as const,
          )}
          onChoose={(tint) => say({ tint })}
        />
        {set.tint !== 'none' && (
          <Percent
            label={w.frames.tintBy}
            value={set.tintBy}
            most={90}
            after={w.frames.dens}
            onSay={(tintBy) => say({ tintBy })}
          />
        )}
      </Says>
      {set.tint !== 'none' && (
        <ColourWords
          label={w.frames.tintColour}
          colour={set.tintColour}
          onSay={(tintColour) => say({ tintColour })}
        />
      )}
      <Says>
        <WordSelect
          label={w.frames.borderLabel}
          value={set.border > 0 ? 'some' : 'none'}
          choices={(['none', 'some'] as const).map((border) => [border, w.frames.border[border]] as const)}
          onChoose={(border) => say({ border: border === 'none' ? 0 : 3 })}
        />
        {set.border > 0 && (
          <>
            <NumberWord
              label={w.frames.borderBy}
              value={set.border}
              least={1}
              most={20}
              onSay={(border) => say({ border })}
            />
            <span>{w.frames.wide}</span>
          </>
        )}
      </Says>
      {set.border > 0 && (
        <ColourWords
          label={w.frames.borderColour}
          colour={set.borderColour}
          onSay={(borderColour) => say({ borderColour })}
        />
      )}
      {hasWordsOver && (
        <Says>
          <span>{w.frames.comes}</span>
          <WordSelect
            label={w.frames.comeLabel}
            value={set.come}
            choices={(['fade', 'rise', 'side'] as const).map((come) => [come, w.frames.come[come]] as const)}
            onChoose={(come) => say({ come })}
          />
        </Says>
      )}
      <Says>
        <span>{w.frames.enters}</span>
        <WordSelect
          label={w.frames.entersLabel}
          value={set.entrance}
          choices={(['none', 'fade', 'rise', 'grow'] as const).map(
            (entrance) => [entrance, w.frames.entrance[entrance]] as const,
          )}
          onChoose={(entrance) => say({ entrance })}
        />
      </Says>
    </>
  )
}

function Percent({
  label,
  value,
  most,
  after,
  onSay,
}: {
  label: string
  value: number
  most: number
  after: string
  onSay: (value: number) => void
}) {
  return (
    <span className="flex items-baseline">
      <NumberWord label={label} value={value} least={1} most={most} onSay={onSay} />
      <span className="whitespace-pre">{after}</span>
    </span>
  )
}
