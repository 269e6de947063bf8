import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { Door, DoorField, DoorPage, useDoor } from './Door'
import { useSession } from './data'
import { hasPasskeys, signInByPasskey } from './passkeys'

/** Signing in, or, on a site that nobody owns yet, making it one's own. */
export function SignIn() {
  const session = useSession().data
  const [byLetter, setByLetter] = useState(false)
  if (session?.needsOwner) return <MakeIt />
  if (byLetter) return <AskForLetter onBack={() => setByLetter(false)} />
  return <Password onLetter={session?.hasMail ? () => setByLetter(true) : undefined} />
}

function MakeIt() {
  const door = useDoor((text) =>
    body(
      api.POST('/api/owner', {
        body: {
          siteTitle: text('siteTitle'),
          name: text('name'),
          email: text('email'),
          password: text('password'),
        },
      }),
      w.errors.away,
    ),
  )
  const faults = door.problem?.fields ?? {}
  return (
    <Door over="Jovitar" title={w.sign.newTitle} lead={w.sign.newLead} door={door} verb={w.sign.make}>
      <DoorField
        name="siteTitle"
        label={w.sign.siteTitle}
        autoComplete="organization"
        fault={faults.siteTitle}
        focus
      />
      <DoorField name="name" label={w.sign.name} autoComplete="name" fault={faults.name} />
      <DoorField
        name="email"
        label={w.sign.email}
        type="email"
        autoComplete="username"
        fault={faults.email}
      />
      <DoorField
        name="password"
        label={w.sign.newPassword}
        type="password"
        autoComplete="new-password"
        fault={faults.password}
      />
    </Door>
  )
}

function Password({ onLetter }: { onLetter: (() => void) | undefined }) {
  const session = useSession().data
  const door = useDoor((text) =>
    body(
      api.POST('/api/session', {
        body: { email: text('email'), password: text('password'), code: text('code') },
      }),
      w.errors.away,
    ),
  )
  const byPasskey = useDoor(signInByPasskey)
  return (
    <Door
      over={session?.siteTitle}
      title={w.workroom}
      lead={w.sign.lead}
      door={door}
      verb={w.sign.in}
      beneath={
        <>
          {hasPasskeys() && (
            <Button look="word" disabled={byPasskey.busy} onClick={() => void byPasskey.enter()}>
              {w.ways.passkey}
            </Button>
          )}
          {onLetter && (
            <Button look="word" onClick={onLetter}>
              {w.ways.without}
            </Button>
          )}
        </>
      }
      also={byPasskey.problem?.message}
    >
      <DoorField
        name="email"
        label={w.sign.email}
        type="email"
        autoComplete="username"
        fault={door.problem?.fields.email}
        focus
      />
      <DoorField
        name="password"
        label={w.sign.password}
        type="password"
        autoComplete="current-password"
        fault={door.problem?.fields.password}
      />
      {door.asksCode && <DoorField name="code" label={w.sign.code} autoComplete="one-time-code" focus />}
    </Door>
  )
}

/** Asks for a letter. What is answered is the same whether anybody has this address. */
function AskForLetter({ onBack }: { onBack: () => void }) {
  const session = useSession().data
  const [asked, setAsked] = useState('')
  const door = useDoor(async (text) => {
    await body(api.POST('/api/way-in', { body: { email: text('email') } }), w.errors.away)
    setAsked(text('email'))
  }, true)
  const back = (
    <Button look="word" onClick={onBack}>
      {w.ways.with}
    </Button>
  )
  if (asked !== '')
    return (
      <DoorPage over={session?.siteTitle} title={w.ways.asked} lead={w.ways.askedLead(asked)}>
        {back}
      </DoorPage>
    )
  return (
    <Door
      over={session?.siteTitle}
      title={w.ways.letter}
      lead={w.ways.letterLead}
      door={door}
      verb={w.ways.ask}
      beneath={back}
    >
      <DoorField
        name="email"
        label={w.sign.email}
        type="email"
        autoComplete="username"
        fault={door.problem?.fields.email}
        focus
      />
    </Door>
  )
}
