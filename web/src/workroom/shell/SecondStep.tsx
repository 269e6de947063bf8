import { useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { AccountField, accountKey } from './AccountField'
import { moment } from './format'
import { tell } from './news'

const words = w.account.second

/** The second step at signing in: set up, put on and taken off. */
export function SecondStep({ step }: { step: Api['SecondStep'] | null | undefined }) {
  const client = useQueryClient()
  const [begun, setBegun] = useState<Api['SecondStepBegun'] | null>(null)
  const [codes, setCodes] = useState<readonly string[]>([])
  const again = () => client.invalidateQueries({ queryKey: accountKey })
  return (
    <section aria-label={words.title}>
      <h2 className="mb-3 text-lead">{words.title}</h2>
      {codes.length > 0 ? (
        <Codes codes={codes} onKept={() => setCodes([])} />
      ) : step ? (
        <Off
          step={step}
          onDone={() => {
            tell({ text: words.off })
            void again()
          }}
        />
      ) : begun ? (
        <On
          begun={begun}
          onLeave={() => setBegun(null)}
          onDone={(next) => {
            setBegun(null)
            setCodes(next)
            void again()
          }}
        />
      ) : (
        <Begin onBegun={setBegun} />
      )}
    </section>
  )
}

/** A form of the account: what it sends, and what is wrong with its fields. */
function Form({
  send,
  verb,
  children,
}: {
  send: (text: (name: string) => string) => Promise<void>
  verb: string
  children: (faults: Readonly<Record<string, string>>) => React.ReactNode
}) {
  const [faults, setFaults] = useState<Record<string, string>>({})
  async function submit(e: FormEvent<HTMLFormElement>) {
    e.preventDefault()
    const data = new FormData(e.currentTarget)
    try {
      await send((name) => String(data.get(name) ?? ''))
    } catch (problem) {
      const known = problem instanceof ApiProblem ? problem : new ApiProblem(0, 'away', w.errors.away)
      setFaults(Object.keys(known.fields).length > 0 ? known.fields : { other: known.message })
    }
  }
  return (
    <form className="grid gap-4" onSubmit={submit}>
      {children(faults)}
      <span>
        <Button type="submit">{verb}</Button>
      </span>
      <p role="alert" className="min-h-5 text-small font-semibold">
        {faults.other}
      </p>
    </form>
  )
}

function Begin({ onBegun }: { onBegun: (begun: Api['SecondStepBegun']) => void }) {
  return (
    <>
      <p className="mb-4 text-quiet">{words.lead}</p>
      <Form
        verb={words.begin}
        send={async (text) =>
          onBegun(
            await body(
              api.POST('/api/account/second-step', { body: { current: text('current') } }),
              w.errors.away,
            ),
          )
        }
      >
        {(faults) => (
          <AccountField
            name="current"
            label={words.password}
            complete="current-password"
            fault={faults.current}
          />
        )}
      </Form>
    </>
  )
}

function On({
  begun,
  onLeave,
  onDone,
}: {
  begun: Api['SecondStepBegun']
  onLeave: () => void
  onDone: (codes: readonly string[]) => void
}) {
  return (
    <>
      <p className="text-quiet">{words.read}</p>
      <svg
        role="img"
        aria-label={words.drawing}
        viewBox={`0 0 ${begun.side} ${begun.side}`}
        shapeRendering="crispEdges"
        className="my-3 w-44"
      >
        <rect width={begun.side} height={begun.side} fill="#fff" />
        <path d={begun.drawing} fill="#000" />
      </svg>
      <p className="mb-4 break-all tracking-wide select-all">{begun.secret.match(/.{1,4}/g)?.join(' ')}</p>
      <Form
        verb={words.putOn}
        send={async (text) =>
          onDone(
            (await body(api.PUT('/api/account/second-step', { body: { code: text('code') } }), w.errors.away))
              .codes,
          )
        }
      >
        {(faults) => (
          <AccountField name="code" label={words.code} complete="one-time-code" shown fault={faults.code} />
        )}
      </Form>
      <Button look="word" onClick={onLeave}>
        {words.leave}
      </Button>
    </>
  )
}

function Codes({ codes, onKept }: { codes: readonly string[]; onKept: () => void }) {
  return (
    <>
      <p>{words.codes}</p>
      <ul className="my-3 grid grid-cols-2 gap-x-6 gap-y-1 tracking-wide">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <p className="flex gap-x-4">
        <Button onClick={onKept}>{words.kept}</Button>
        <Button look="word" onClick={() => print()}>
          {words.print}
        </Button>
      </p>
    </>
  )
}

function Off({ step, onDone }: { step: Api['SecondStep']; onDone: () => void }) {
  return (
    <>
      <p>{words.on(moment(step.since))}</p>
      <p className="mb-4 text-quiet">{words.left(step.rescueLeft)}</p>
      <Form
        verb={words.takeOff}
        send={async (text) => {
          await body(
            api.POST('/api/account/second-step/off', {
              body: { current: text('current'), code: text('code') },
            }),
            w.errors.away,
          )
          onDone()
        }}
      >
        {(faults) => (
          <>
            <AccountField
              name="current"
              label={words.password}
              complete="current-password"
              fault={faults.current}
            />
            <AccountField
              name="code"
              label={words.anyCode}
              complete="one-time-code"
              shown
              fault={faults.code}
            />
          </>
        )}
      </Form>
    </>
  )
}
