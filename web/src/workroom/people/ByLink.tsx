import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import { type Api, type ApiProblem, api, body } from '../../api/client'
import { asNext } from '../../kit/Button'
import { w } from '../../words'
import { Door, DoorField, DoorPage, useDoor } from '../shell/Door'
import { useSession } from '../shell/data'

/** What the link carries: behind the sign that no server on the way is sent. */
const secretOf = () => window.location.hash.slice(1)

/** What a link from a letter leads to, once it is known to be good. */
function Opened<T>({
  name,
  look,
  children,
}: {
  name: string
  look: (secret: string) => Promise<T>
  children: (seen: T, secret: string) => ReactNode
}) {
  const session = useSession().data
  const secret = secretOf()
  const seen = useQuery<T, ApiProblem>({
    queryKey: ['way', name, secret],
    queryFn: () => look(secret),
    enabled: session !== undefined,
    staleTime: Number.POSITIVE_INFINITY,
  })
  if (seen.data) return children(seen.data, secret)
  if (!seen.error) return null
  return (
    <DoorPage over={session?.siteTitle} title={w.workroom} lead={seen.error.message}>
      <Link to="/workroom" className={asNext}>
        {w.ways.back}
      </Link>
    </DoorPage>
  )
}

/** Somebody who was invited takes it up. */
export function Invited() {
  return (
    <Opened
      name="invited"
      look={(secret) => body(api.POST('/api/invitation/look', { body: { secret } }), w.errors.away)}
    >
      {(seen, secret) => <TakeUp seen={seen} secret={secret} />}
    </Opened>
  )
}

function TakeUp({ seen, secret }: { seen: Api['InvitationSeen']; secret: string }) {
  const session = useSession().data
  const go = useNavigate()
  const door = useDoor(async (text) => {
    await body(
      api.POST('/api/invitation', { body: { secret, name: text('name'), password: text('password') } }),
      w.errors.away,
    )
    await go({ to: '/workroom', replace: true })
  })
  const faults = door.problem?.fields ?? {}
  return (
    <Door
      over={w.workroom}
      title={w.ways.invited(session?.siteTitle ?? '')}
      lead={
        seen.handsOver
          ? w.ways.heirLead(seen.by, seen.email)
          : w.ways.invitedLead(seen.by, w.people.parts[seen.role], seen.email)
      }
      door={door}
      verb={w.ways.join}
    >
      <DoorField name="name" label={w.sign.name} autoComplete="name" value={seen.name} fault={faults.name} />
      <DoorField
        name="password"
        label={w.sign.newPassword}
        type="password"
        autoComplete="new-password"
        fault={faults.password}
        focus
      />
    </Door>
  )
}

/** Somebody signs in by a letter. */
export function WayIn() {
  return (
    <Opened
      name="way-in"
      look={(secret) => body(api.POST('/api/way-in/look', { body: { secret } }), w.errors.away)}
    >
      {(seen, secret) => <ComeIn seen={seen} secret={secret} />}
    </Opened>
  )
}

function ComeIn({ seen, secret }: { seen: Api['WayInSeen']; secret: string }) {
  const session = useSession().data
  const go = useNavigate()
  const door = useDoor(async (text) => {
    await body(
      api.POST('/api/way-in/use', { body: { secret, password: text('password'), code: text('code') } }),
      w.errors.away,
    )
    await go({ to: '/workroom', replace: true })
  })
  return (
    <Door
      over={session?.siteTitle}
      title={w.ways.in(seen.name)}
      lead={w.ways.inLead(seen.email)}
      door={door}
      verb={w.sign.in}
    >
      <DoorField
        name="password"
        label={w.ways.newPassword}
        type="password"
        autoComplete="new-password"
        hint={w.ways.newPasswordHint}
        fault={door.problem?.fields.password}
        optional
      />
      {door.asksCode && <DoorField name="code" label={w.sign.code} autoComplete="one-time-code" focus />}
    </Door>
  )
}
