import { useState } from 'react'
import type { Api } from '../../api/client'
import { WordSelect } from '../../kit/WordSelect'
import { ChosenOnes } from './audience/ChosenOnes'

type ForWhom = Api['ForWhom']

const all = ['everyone', 'known', 'members', 'chosen', 'nobody'] as const

const idsOf = (whom: Api['Whom']) => (whom.who === 'chosen' ? (whom.chosen ?? []) : [])

/** Which of the visitors something is for, as a word of a sentence; where it is some, these stand behind it. */
export function WhomChoice({
  whom,
  called,
  label,
  words,
  onSay,
}: {
  whom: Api['Whom']
  /** The groups and members by name. */
  called: Api['Chosen'][]
  label: string
  words: Record<ForWhom, string>
  /** Makes of for whom it was for whom it is to be. */
  onSay: (change: (was: Api['Whom']) => Api['Whom']) => void
}) {
  // Groups and members are said once there is one.
  const [naming, setNaming] = useState(false)
  const who = naming ? 'chosen' : whom.who
  return (
    <>
      <WordSelect
        label={label}
        value={who}
        choices={all.map((one) => [one, words[one]] as const)}
        onChoose={(next) => {
          setNaming(next === 'chosen')
          if (next !== 'chosen') onSay(() => ({ who: next, chosen: [] }))
        }}
      />
      {who === 'chosen' && (
        <ChosenOnes
          all={called.filter((c) => idsOf(whom).includes(c.id))}
          onChoose={(one) => {
            onSay((was) => ({ who: 'chosen', chosen: [...idsOf(was).filter((id) => id !== one.id), one.id] }))
            setNaming(false)
          }}
          onLeaveOut={(one) => {
            onSay((was) => {
              const left = idsOf(was).filter((id) => id !== one.id)
              // Without anyone it is for nobody, and that is said by its own word.
              return { who: left.length === 0 ? 'nobody' : 'chosen', chosen: left }
            })
            setNaming(false)
          }}
        />
      )}
    </>
  )
}
