import type { Api } from '../../../../api/client'
import { ColourWords } from '../../../../kit/ColourWords'
import { NumberWord } from '../../../../kit/NumberWord'
import { WordSelect } from '../../../../kit/WordSelect'
import { w } from '../../../../words'
import { usualWords } from '../blocks'
import { Fold, Says } from '../Parts'
import { Devices } from './Devices'

type Words = Api['FrameWords']
type WordsSet = Api['WordsSet']
type Word = NonNullable<Words['first']>

const all = ['title', 'caption', 'place', 'date', 'camera', 'credit', 'licence', 'fileName'] as const
const times = ['never', 'under', 'touched', 'over', 'turned'] as const

/** Which words stand with each photo, when, and how they look. In a list they stand beside it and look as the list does. */
export function WordsFold({
  words,
  isList,
  onSay,
}: {
  words: Words
  isList: boolean
  onSay: (words: Words) => void
}) {
  return (
    <Fold
      name={w.frames.words}
      changed={JSON.stringify(words) !== JSON.stringify(usualWords)}
      onUsual={() => onSay(usualWords)}
    >
      <Says>
        <span>{isList ? w.frames.beside : w.frames.lines}</span>
        <WordChoice
          label={w.frames.firstLine}
          word={words.first}
          onSay={(first) => onSay({ ...words, first })}
        />
        <span>{w.frames.and}</span>
        <WordChoice
          label={w.frames.secondLine}
          word={words.second}
          onSay={(second) => onSay({ ...words, second })}
        />
      </Says>
      {!isList && (
        <Devices each={words} onSay={(next) => onSay({ ...words, ...next })}>
          {(set, say) => <SetSentences words={words} set={set} onSay={say} />}
        </Devices>
      )}
    </Fold>
  )
}

function WordChoice({
  label,
  word,
  onSay,
}: {
  label: string
  word: Word | null
  onSay: (word: Word | null) => void
}) {
  return (
    <WordSelect
      label={label}
      value={word ?? 'none'}
      choices={(['none', ...all] as const).map((each) => [each, w.frames.word[each]] as const)}
      onChoose={(each) => onSay(each === 'none' ? null : each)}
    />
  )
}

function SetSentences({
  words,
  set,
  onSay,
}: {
  words: Words
  set: WordsSet
  onSay: (set: WordsSet) => void
}) {
  const say = (next: Partial<WordsSet>) => onSay({ ...set, ...next })
  const lines = (['first', 'second'] as const).filter((line) => words[line] !== null)
  const there = lines.map((line) => set[line])
  const isOver = there.includes('over') || there.includes('touched')
  return (
    <>
      {lines.map((line) => (
        <Says key={line}>
          <span>{w.frames.stands(w.frames.word[words[line] ?? 'none'])}</span>
          <WordSelect
            label={w.frames.when[line]}
            value={set[line]}
            choices={times.map((time) => [time, w.frames.times[time]] as const)}
            onChoose={(time) => say({ [line]: time })}
          />
        </Says>
      ))}
      {there.some((time) => time !== 'never') && (
        <>
          <Says>
            <span>{w.frames.are}</span>
            <WordSelect
              label={w.frames.size}
              value={set.size}
              choices={(['small', 'usual', 'large'] as const).map((s) => [s, w.frames.sizes[s]] as const)}
              onChoose={(size) => say({ size })}
            />
            <WordSelect
              label={w.frames.align}
              value={set.align}
              choices={(['left', 'centre', 'right'] as const).map((a) => [a, w.frames.aligns[a]] as const)}
              onChoose={(align) => say({ align })}
            />
            <NumberWord
              label={w.frames.padding}
              value={set.padding}
              least={0}
              most={40}
              onSay={(padding) => say({ padding })}
            />
            <span>{w.frames.air}</span>
          </Says>
          {isOver && (
            <Says>
              <span>{w.frames.overLead}</span>
              <WordSelect
                label={w.frames.overLabel}
                value={set.whole ? 'whole' : 'foot'}
                choices={(['foot', 'whole'] as const).map((o) => [o, w.frames.over[o]] as const)}
                onChoose={(over) => say({ whole: over === 'whole' })}
              />
              <NumberWord
                label={w.frames.dense}
                value={set.dense}
                least={0}
                most={100}
                onSay={(dense) => say({ dense })}
              />
              <span>{w.frames.ofPhoto}</span>
            </Says>
          )}
          <ColourChoice
            lead={w.frames.ground}
            label={w.frames.groundLabel}
            ways={w.frames.grounds}
            colour={set.ground}
            first="#e8dfce"
            onSay={(ground) => say({ ground })}
          />
          <ColourChoice
            lead={w.frames.colour}
            label={w.frames.colourLabel}
            ways={w.frames.colours}
            colour={set.colour}
            first="#fafafa"
            onSay={(colour) => say({ colour })}
          />
        </>
      )}
    </>
  )
}

/** A colour, or none said. */
function ColourChoice({
  lead,
  label,
  ways,
  colour,
  first,
  onSay,
}: {
  lead: string
  label: string
  ways: { itself: string; said: string }
  colour: string | null
  /** The colour that one begins with. */
  first: string
  onSay: (colour: string | null) => void
}) {
  return (
    <>
      <Says>
        <span>{lead}</span>
        <WordSelect
          label={label}
          value={colour === null ? 'itself' : 'said'}
          choices={(['itself', 'said'] as const).map((way) => [way, ways[way]] as const)}
          onChoose={(way) => onSay(way === 'itself' ? null : first)}
        />
      </Says>
      {colour !== null && <ColourWords label={label} colour={colour} onSay={onSay} />}
    </>
  )
}
