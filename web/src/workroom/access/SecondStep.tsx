import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { LineField } from '../../kit/LineField'
import { w } from '../../words'
import { moment } from '../shell/format'
import { LineForm } from '../shell/LineForm'
import { tell } from '../shell/news'
import { accountKey, CurrentPassword } from './account'

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

function Begin({ onBegun }: { onBegun: (begun: Api['SecondStepBegun']) => void }) {
  return (
    <>
      <p className="mb-4 text-quiet">{words.lead}</p>
      <LineForm
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
        {(faults) => <CurrentPassword label={words.password} fault={faults.current} />}
      </LineForm>
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
      <LineForm
        verb={words.putOn}
        send={async (text) =>
          onDone(
            (await body(api.PUT('/api/account/second-step', { body: { code: text('code') } }), w.errors.away))
              .codes,
          )
        }
      >
        {(faults) => (
          <LineField name="code" label={words.code} complete="one-time-code" fault={faults.code} />
        )}
      </LineForm>
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
      <LineForm
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
            <CurrentPassword label={words.password} fault={faults.current} />
            <LineField name="code" label={words.anyCode} complete="one-time-code" fault={faults.code} />
          </>
        )}
      </LineForm>
    </>
  )
}
