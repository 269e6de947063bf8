import { useState } from 'react'
import { Button } from '../../kit/Button'
import { w } from '../../words'

export type Consent = { says: string; until: string; by: string }

/** Yes, no, or nothing; until when, and who says so. */
export function ClearForm({
  now,
  choices,
  yes,
  verb,
  onWrite,
  pending,
}: {
  now: Consent
  choices: readonly (readonly [string, string])[]
  /** The choice that may have an end. */
  yes: string
  verb: string
  onWrite: (next: Consent) => void
  pending: boolean
}) {
  const [next, setNext] = useState(now)
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        onWrite({ ...next, until: next.says === yes ? next.until : '' })
      }}
    >
      <div role="radiogroup" aria-label={verb} className="grid gap-1">
        {choices.map(([key, words]) => (
          <label key={key} className="flex min-h-6 cursor-pointer items-baseline gap-2">
            <input
              type="radio"
              name="says"
              value={key}
              className="accent-plum"
              checked={next.says === key}
              onChange={() => setNext({ ...next, says: key })}
            />
            {words}
          </label>
        ))}
      </div>
      {next.says === yes && (
        <label className="grid gap-1 text-small text-quiet">
          {w.clearance.lastDay}
          <input
            type="date"
            className="rounded-control border border-strong-line bg-transparent px-2 py-1 text-body text-ink focus:border-plum"
            value={next.until}
            onChange={(e) => setNext({ ...next, until: e.target.value })}
          />
        </label>
      )}
      {next.says !== '' && (
        <label className="grid gap-1 text-small text-quiet">
          {w.clearance.whoSays}
          <input
            type="text"
            maxLength={200}
            placeholder={w.clearance.whoExample}
            className="rounded-control border border-strong-line bg-transparent px-2 py-1 text-body text-ink focus:border-plum"
            value={next.by}
            onChange={(e) => setNext({ ...next, by: e.target.value })}
          />
        </label>
      )}
      <Button type="submit" look="next" className="justify-self-start" disabled={pending}>
        {verb}
      </Button>
    </form>
  )
}
