import { useQueryClient } from '@tanstack/react-query'
import { type FormEvent, type ReactNode, useId, useState } from 'react'
import { ApiProblem } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'

/**
 * What is sent at a door: it is busy meanwhile, and says what is wrong. Let in, all is read anew.
 * @param stays One is as much outside as before.
 */
export function useDoor(send: (text: (name: string) => string) => Promise<unknown>, stays = false) {
  const client = useQueryClient()
  const [problem, setProblem] = useState<ApiProblem | null>(null)
  const [busy, setBusy] = useState(false)
  /** All else was right, and a second step is on. */
  const [asksCode, setAsksCode] = useState(false)
  async function enter(e?: FormEvent<HTMLFormElement>) {
    e?.preventDefault()
    const form = new FormData(e?.currentTarget)
    setBusy(true)
    setProblem(null)
    try {
      await send((name) => String(form.get(name) ?? ''))
      if (!stays) await client.resetQueries()
    } catch (caught) {
      const known = caught instanceof ApiProblem ? caught : new ApiProblem(0, 'away', w.errors.away)
      setProblem(known)
      setAsksCode((before) => before || known.kind === 'second-step')
    }
    setBusy(false)
  }
  return { problem, busy, asksCode, enter }
}

/** A page before the workroom: what it is, what is filled in, the one thing to do. */
export function Door({
  over,
  title,
  lead,
  door,
  verb,
  beneath,
  also = '',
  children,
}: {
  over: ReactNode
  title: string
  lead: string
  door: ReturnType<typeof useDoor>
  verb: string
  /** Other ways. */
  beneath?: ReactNode
  /** What is wrong with one of those. */
  also?: string | undefined
  children: ReactNode
}) {
  const { problem, busy, enter } = door
  return (
    <DoorPage over={over} title={title} lead={lead}>
      <form onSubmit={enter}>
        <div className="grid gap-5">{children}</div>
        <p role="alert" className="mt-4 min-h-6 font-semibold">
          {problem && Object.keys(problem.fields).length === 0 ? problem.message : also}
        </p>
        <div className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-3">
          <Button type="submit" look="next" disabled={busy}>
            {verb}
          </Button>
          {beneath}
        </div>
      </form>
    </DoorPage>
  )
}

/** The same page where nothing is to be filled in. */
export function DoorPage({
  over,
  title,
  lead,
  children,
}: {
  over: ReactNode
  title: string
  lead: string
  children?: ReactNode
}) {
  return (
    <main className="grid min-h-screen place-items-center px-6 py-10">
      <div className="w-full max-w-[23rem]">
        <p className="text-small text-quiet">{over}</p>
        <h1 className="mt-1 text-title [overflow-wrap:anywhere]">{title}</h1>
        <p className="mt-2 mb-8 text-quiet [overflow-wrap:anywhere]">{lead}</p>
        {children}
      </div>
    </main>
  )
}

/** A field at a door, set like a line to be filled in. */
export function DoorField({
  name,
  label,
  type = 'text',
  autoComplete,
  value,
  hint,
  fault,
  focus,
  optional = false,
}: {
  name: string
  label: string
  type?: string
  autoComplete: string
  /** What stands there at first. */
  value?: string
  hint?: string
  fault?: string | undefined
  focus?: boolean
  optional?: boolean
}) {
  const id = useId()
  return (
    <label className="block">
      <span className="text-small text-quiet">{label}</span>
      <input
        name={name}
        type={type}
        autoComplete={autoComplete}
        required={!optional}
        defaultValue={value}
        // biome-ignore lint/a11y/noAutofocus: the page has one purpose, and this is its first step.
        autoFocus={focus}
        aria-invalid={fault !== undefined}
        aria-describedby={fault || hint ? id : undefined}
        className="block w-full border-b border-strong-line bg-transparent py-1 text-lead outline-none focus:border-plum"
      />
      {(fault || hint) && (
        <span id={id} className={`mt-1 block text-small ${fault ? 'font-semibold' : 'text-quiet'}`}>
          {fault ?? hint}
        </span>
      )}
    </label>
  )
}
