import { useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { LineField } from '../../kit/LineField'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { refresh } from '../shell/refresh'
import { TheLink } from './TheLink'

/** Asks somebody to work on the site. */
export function Invite({ hasMail }: { hasMail: boolean }) {
  const client = useQueryClient()
  const [role, setRole] = useState<'editor' | 'owner'>('editor')
  const [faults, setFaults] = useState<Record<string, string>>({})
  const [busy, setBusy] = useState(false)
  const [made, setMade] = useState<{ name: string; link: Api['InvitationLink'] } | null>(null)

  async function send(e: FormEvent<HTMLFormElement>) {
    e.preventDefault()
    const form = e.currentTarget
    const data = new FormData(form)
    const text = (name: string) => String(data.get(name) ?? '').trim()
    setBusy(true)
    setFaults({})
    try {
      const link = await body(
        api.POST('/api/people/invitations', { body: { name: text('name'), email: text('email'), role } }),
        w.errors.away,
      )
      setMade({ name: text('name'), link })
      form.reset()
      setRole('editor')
      refresh(client)
    } catch (caught) {
      const known = caught instanceof ApiProblem ? caught : new ApiProblem(0, 'away', w.errors.away)
      setFaults(Object.keys(known.fields).length > 0 ? known.fields : { other: known.message })
    }
    setBusy(false)
  }

  return (
    <section aria-label={w.people.invite} className="min-w-0">
      <h2 className="text-lead">{w.people.invite}</h2>
      <p className="mt-2 mb-4 text-small text-quiet">{w.people.inviteLead}</p>
      <form className="grid gap-4" onSubmit={send}>
        <LineField name="name" label={w.people.name} complete="off" fault={faults.name} />
        <LineField name="email" label={w.people.email} type="email" complete="off" fault={faults.email} />
        <p>
          {w.people.as}{' '}
          <WordSelect
            label={w.people.asLabel}
            value={role}
            choices={[
              ['editor', w.people.parts.editor],
              ['owner', w.people.parts.owner],
            ]}
            onChoose={setRole}
          />
        </p>
        <span>
          <Button type="submit" look="next" disabled={busy}>
            {w.people.send}
          </Button>
        </span>
        {faults.other && (
          <p role="alert" className="text-small font-semibold">
            {faults.other}
          </p>
        )}
      </form>
      {made && (
        <div className="mt-5">
          <TheLink key={made.link.link} name={made.name} link={made.link} />
        </div>
      )}
      {!hasMail && <p className="mt-6 text-small text-quiet">{w.people.noMail}</p>}
    </section>
  )
}
