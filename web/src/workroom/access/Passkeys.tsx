import { useQueryClient } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { LineForm } from '../shell/LineForm'
import { tell } from '../shell/news'
import { hasPasskeys, makePasskey } from '../shell/passkeys'
import { accountKey, CurrentPassword } from './account'
import { browserName } from './browserName'

const words = w.account.passkeys

/** One's passkeys: those there are, and making one on this device. */
export function Passkeys({ passkeys }: { passkeys: Api['PasskeyLine'][] }) {
  const client = useQueryClient()
  return (
    <section aria-label={words.title}>
      <h2 className="mb-2 text-lead">{words.title}</h2>
      <p className="mb-4 text-small text-quiet">{words.lead}</p>
      {passkeys.length > 0 && (
        <ul className="mb-5">
          {passkeys.map((passkey) => (
            <PasskeyLine key={passkey.id} passkey={passkey} />
          ))}
        </ul>
      )}
      {hasPasskeys() ? (
        <LineForm
          verb={words.add}
          done={words.added}
          send={async (text) => {
            await makePasskey(text('current'), browserName(navigator.userAgent) ?? w.account.unknown)
            void client.invalidateQueries({ queryKey: accountKey })
          }}
        >
          {(faults) => <CurrentPassword label={words.password} fault={faults.current} />}
        </LineForm>
      ) : (
        <p className="text-small text-quiet">{words.notHere}</p>
      )}
    </section>
  )
}

function PasskeyLine({ passkey }: { passkey: Api['PasskeyLine'] }) {
  const client = useQueryClient()
  const off = useAct(
    () =>
      body(
        api.DELETE('/api/account/passkeys/{passkey}', { params: { path: { passkey: passkey.id } } }),
        w.errors.away,
      ),
    () => {
      void client.invalidateQueries({ queryKey: accountKey })
      tell({ text: words.isOff })
    },
  )
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 border-t border-line py-2">
      <span className="min-w-0">
        <span className="block truncate">{passkey.name}</span>
        <span className="block text-small text-quiet">
          {passkey.used ? words.used(moment(passkey.used)) : words.made(moment(passkey.made))}
        </span>
      </span>
      <Button look="word" className="text-small" onClick={() => off.mutate(undefined)}>
        {words.off}
      </Button>
    </li>
  )
}
