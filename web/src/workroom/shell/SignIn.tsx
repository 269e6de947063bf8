import { useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { ApiProblem, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useSession } from './data'

/** A field of the sign-in, set like a line to be filled in. */
function Field({
  name,
  label,
  type = 'text',
  autoComplete,
  fault,
  focus,
}: {
  name: string
  label: string
  type?: string
  autoComplete: string
  fault?: string | undefined
  focus?: boolean
}) {
  return (
    <label className="block">
      <span className="text-small text-quiet">{label}</span>
      <input
        name={name}
        type={type}
        autoComplete={autoComplete}
        required
        // biome-ignore lint/a11y/noAutofocus: the page has one purpose, and this is its first step.
        autoFocus={focus}
        aria-invalid={fault !== undefined}
        className="block w-full border-b border-strong-line bg-transparent py-1 text-lead outline-none focus:border-plum"
      />
      {fault && <span className="mt-1 block text-small font-semibold">{fault}</span>}
    </label>
  )
}

/** Signing in, or, on a site that nobody owns yet, making it one's own. */
export function SignIn() {
  const session = useSession().data
  const client = useQueryClient()
  const [problem, setProblem] = useState<ApiProblem | null>(null)
  const [busy, setBusy] = useState(false)
  /** The password was right, and a second step is on. */
  const [asksCode, setAsksCode] = useState(false)
  const fresh = session?.needsOwner ?? false

  async function enter(e: FormEvent<HTMLFormElement>) {
    e.preventDefault()
    const form = new FormData(e.currentTarget)
    const text = (name: string) => String(form.get(name) ?? '')
    setBusy(true)
    setProblem(null)
    try {
      const password = text('password')
      const email = text('email')
      if (fresh)
        await body(
          api.POST('/api/owner', {
            body: { siteTitle: text('siteTitle'), name: text('name'), email, password },
          }),
          w.errors.away,
        )
      else
        await body(api.POST('/api/session', { body: { email, password, code: text('code') } }), w.errors.away)
      await client.resetQueries()
    } catch (caught) {
      const known = caught instanceof ApiProblem ? caught : new ApiProblem(0, 'away', w.errors.away)
      setProblem(known)
      setAsksCode(known.kind === 'second-step')
    }
    setBusy(false)
  }

  return (
    <main className="grid min-h-screen place-items-center px-6 py-10">
      <form onSubmit={enter} className="w-full max-w-[23rem]">
        <p className="text-small text-quiet">{fresh ? 'Jovitar' : session?.siteTitle}</p>
        <h1 className="mt-1 text-title">{fresh ? w.sign.newTitle : w.workroom}</h1>
        <p className="mt-2 mb-8 text-quiet">{fresh ? w.sign.newLead : w.sign.lead}</p>
        <div className="grid gap-5">
          {fresh && (
            <Field
              name="siteTitle"
              label={w.sign.siteTitle}
              autoComplete="organization"
              fault={problem?.fields.siteTitle}
              focus
            />
          )}
          {fresh && (
            <Field name="name" label={w.sign.name} autoComplete="name" fault={problem?.fields.name} />
          )}
          <Field
            name="email"
            label={w.sign.email}
            type="email"
            autoComplete="username"
            fault={problem?.fields.email}
            focus={!fresh}
          />
          <Field
            name="password"
            label={fresh ? w.sign.newPassword : w.sign.password}
            type="password"
            autoComplete={fresh ? 'new-password' : 'current-password'}
            fault={problem?.fields.password}
          />
          {asksCode && <Field name="code" label={w.sign.code} autoComplete="one-time-code" focus />}
        </div>
        <p role="alert" className="mt-4 min-h-6 font-semibold">
          {problem && Object.keys(problem.fields).length === 0 ? problem.message : ''}
        </p>
        <Button type="submit" look="next" className="mt-2" disabled={busy}>
          {fresh ? w.sign.make : w.sign.in}
        </Button>
      </form>
    </main>
  )
}
