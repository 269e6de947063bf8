import { useState } from 'react'
import { w } from '../../words'
import { fields } from '../plate/plateEdit'
import { useHand } from '../shell/hand'
import { type RuleProps, useFirst, useSaid } from './data'
import { PatternLine } from './PatternLine'
import { Pick, Write } from './parts'
import { asPattern, blank, type Typed, type WordField } from './pattern'

const named = fields.map((f) => [f, w.describing.fields[f]] as const)
const several = ['title', 'caption', 'alt'] as const

/** Writes a word by a pattern. */
export function PatternRule({ onSay }: RuleProps) {
  const [field, setField] = useState<WordField>('title')
  const [typed, setTyped] = useState<Typed>(blank)
  const pattern = asPattern(typed)
  useSaid(onSay, pattern.length === 0 ? null : [{ write: { field, pattern } }])
  return (
    <>
      {w.describing.write} <Pick label={w.describing.write} value={field} choices={named} onPick={setField} />{' '}
      {w.describing.as} <PatternLine typed={typed} onChange={setTyped} />
    </>
  )
}

/** Copies words of the first in hand to the others. */
export function CopyRule({ onSay }: RuleProps) {
  const { ids } = useHand()
  const first = useFirst(ids[0])
  const [field, setField] = useState<WordField | 'every'>('every')
  const copied = field === 'every' ? fields.filter((f) => f !== 'link') : [field]
  useSaid(
    onSay,
    first && ids.length > 1
      ? copied.flatMap((f) => (first[f] ? [{ write: { field: f, pattern: [{ text: first[f] }] } }] : []))
      : null,
  )
  return (
    <>
      {w.describing.copy}{' '}
      <Pick
        label={w.describing.copy}
        value={field}
        choices={[['every', w.describing.everyWord], ...named]}
        onPick={(f) => setField(f as WordField)}
      />{' '}
      {w.describing.fromFirst}
    </>
  )
}

const where = [
  ['every', w.describing.every],
  ...named.filter(([f]) => f !== 'link'),
] as const satisfies readonly (readonly [string, string])[]

function fieldsOf(choice: WordField | 'every'): WordField[] {
  return choice === 'every' ? [...several] : [choice]
}

/** Finds a text in words and replaces it. */
export function ReplaceRule({ onSay }: RuleProps) {
  const [field, setField] = useState<WordField | 'every'>('every')
  const [find, setFind] = useState('')
  const [by, setBy] = useState('')
  const [matchCase, setMatchCase] = useState<'no' | 'yes'>('no')
  const [whole, setWhole] = useState<'no' | 'yes'>('yes')
  useSaid(
    onSay,
    find === ''
      ? null
      : [
          {
            replace: {
              fields: fieldsOf(field),
              find,
              with: by,
              matchCase: matchCase === 'yes',
              wholeWords: whole === 'yes',
            },
          },
        ],
  )
  return (
    <>
      {w.describing.in}{' '}
      <Pick label={w.describing.in} value={field} choices={where} onPick={(f) => setField(f as WordField)} />{' '}
      {w.describing.replace} <Write label={w.describing.find} value={find} onWrite={setFind} />{' '}
      {w.describing.by}{' '}
      <Write label={w.describing.by} placeholder={w.describing.nothingThere} value={by} onWrite={setBy} />,{' '}
      <Pick
        label={w.describing.matchCase.yes}
        value={matchCase}
        choices={[
          ['no', w.describing.matchCase.no],
          ['yes', w.describing.matchCase.yes],
        ]}
        onPick={setMatchCase}
      />
      ,{' '}
      <Pick
        label={w.describing.whole.yes}
        value={whole}
        choices={[
          ['yes', w.describing.whole.yes],
          ['no', w.describing.whole.no],
        ]}
        onPick={setWhole}
      />
      .
    </>
  )
}

const casings = ['sentence', 'title', 'lower', 'upper'] as const

/** Writes large and small letters anew. */
export function LettersRule({ onSay }: RuleProps) {
  const [field, setField] = useState<WordField | 'every'>('title')
  const [casing, setCasing] = useState<(typeof casings)[number]>('sentence')
  useSaid(onSay, [{ recase: { fields: fieldsOf(field), casing } }])
  return (
    <>
      {w.describing.write}{' '}
      <Pick
        label={w.describing.write}
        value={field}
        choices={where}
        onPick={(f) => setField(f as WordField)}
      />{' '}
      <Pick
        label={w.describing.kinds.letters}
        value={casing}
        choices={casings.map((c) => [c, w.describing.casings[c]] as const)}
        onPick={setCasing}
      />
      .
    </>
  )
}
