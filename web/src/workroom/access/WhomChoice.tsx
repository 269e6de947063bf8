import { useState } from 'react'
import type { Api } from '../../api/client'
import { WordSelect } from '../../kit/WordSelect'
import { ChosenOnes } from './audience/ChosenOnes'

type ForWhom = Api['ForWhom']

const all = ['everyone', 'known', 'members', 'chosen', 'nobody'] as const

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
  onSay: (whom: Api['Whom']) => void
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
          if (next !== 'chosen') onSay({ who: next, chosen: [] })
        }}
      />
      {who === 'chosen' && (
        <ChosenOnes
          all={whom.who === 'chosen' ? called.filter((c) => whom.chosen?.includes(c.id)) : []}
          onChange={(some) => {
            // Without anyone it is for nobody, and that is said by its own word.
            if (some.length === 0) onSay({ who: 'nobody', chosen: [] })
            else onSay({ who: 'chosen', chosen: some.map((c) => c.id) })
            setNaming(false)
          }}
        />
      )}
    </>
  )
}
