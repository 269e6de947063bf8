import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { LineField } from '../../kit/LineField'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { LineForm } from '../shell/LineForm'
import { refresh } from '../shell/refresh'
import { TheLink } from './TheLink'

/** Asks somebody to work on the site. */
export function Invite({ hasMail }: { hasMail: boolean }) {
  const client = useQueryClient()
  const [role, setRole] = useState<'editor' | 'owner' | 'heir'>('editor')
  const [made, setMade] = useState<{ name: string; link: Api['InvitationLink'] } | null>(null)

  async function send(text: (name: string) => string) {
    const name = text('name').trim()
    const link = await body(
      api.POST('/api/people/invitations', {
        body: {
          name,
          email: text('email').trim(),
          role: role === 'heir' ? 'owner' : role,
          handsOver: role === 'heir',
        },
      }),
      w.errors.away,
    )
    setMade({ name, link })
    setRole('editor')
    refresh(client)
  }

  return (
    <section aria-label={w.people.invite} className="min-w-0">
      <h2 className="text-lead">{w.people.invite}</h2>
      <p className="mt-2 mb-4 text-small text-quiet">{w.people.inviteLead}</p>
      <LineForm verb={w.people.send} look="next" send={send}>
        {(faults) => (
          <>
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
                  ['heir', w.people.heir],
                ]}
                onChoose={setRole}
              />
            </p>
            {role === 'heir' && <p className="border-l-2 border-plum pl-3 text-small">{w.people.heirLead}</p>}
          </>
        )}
      </LineForm>
      {made && (
        <div className="mt-2">
          <TheLink key={made.link.link} name={made.name} link={made.link} />
        </div>
      )}
      {!hasMail && <p className="mt-6 text-small text-quiet">{w.people.noMail}</p>}
    </section>
  )
}
