import { type FormEvent, useState } from 'react'
import { ApiProblem } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'

/** A short form of lines: what it sends, and what is wrong with its fields. */
export function LineForm({
  send,
  verb,
  done,
  look = 'plain',
  also,
  children,
}: {
  send: (text: (name: string) => string) => Promise<void>
  verb: string
  /** What is said when it has gone well. */
  done?: string
  /** It is the thing to do next. */
  look?: 'next' | 'plain'
  /** What else can be done, beside it. */
  also?: React.ReactNode
  children: (faults: Readonly<Record<string, string>>) => React.ReactNode
}) {
  const [faults, setFaults] = useState<Record<string, string>>({})
  const [isDone, setIsDone] = useState(false)
  const [busy, setBusy] = useState(false)
  async function submit(e: FormEvent<HTMLFormElement>) {
    e.preventDefault()
    const form = e.currentTarget
    const data = new FormData(form)
    setIsDone(false)
    setBusy(true)
    try {
      await send((name) => String(data.get(name) ?? ''))
      form.reset()
      setFaults({})
      setIsDone(true)
    } catch (problem) {
      const known = problem instanceof ApiProblem ? problem : new ApiProblem(0, 'away', w.errors.away)
      setFaults(Object.keys(known.fields).length > 0 ? known.fields : { other: known.message })
    }
    setBusy(false)
  }
  return (
    <form className="grid gap-4" onSubmit={submit}>
      {children(faults)}
      <span className="flex items-baseline gap-5">
        <Button type="submit" look={look} disabled={busy}>
          {verb}
        </Button>
        {also}
      </span>
      <p role="status" className="min-h-5 text-small">
        {faults.other ? <span className="font-semibold">{faults.other}</span> : isDone && done}
      </p>
    </form>
  )
}
