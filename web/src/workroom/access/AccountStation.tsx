import { useQuery, useQueryClient } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { LineField } from '../../kit/LineField'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { LineForm } from '../shell/LineForm'
import { tell } from '../shell/news'
import { Heading } from '../shell/Station'
import { accountKey, CurrentPassword } from './account'
import { browserName } from './browserName'
import { Passkeys } from './Passkeys'
import { SecondStep } from './SecondStep'

/** One's own account: the password, the second step, and the browsers that are signed in. */
export function AccountStation() {
  const account = useQuery({
    queryKey: accountKey,
    queryFn: () => body(api.GET('/api/account'), w.errors.away),
  }).data
  if (!account) return null
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.account.title}
        lead={`${account.name}, ${account.email}. ${w.account.role[account.role]}.`}
      />
      <div className="mt-7 grid max-w-[60rem] grid-cols-[minmax(0,1fr)_minmax(0,1.4fr)] gap-x-12 gap-y-8 max-lg:grid-cols-1">
        <div className="grid content-start gap-8">
          <Password />
          <SecondStep step={account.secondStep} />
        </div>
        <div className="grid content-start gap-8">
          <Passkeys passkeys={account.passkeys} />
          <section aria-label={w.account.sessions}>
            <h2 className="mb-2 text-lead">{w.account.sessions}</h2>
            <ul>
              {account.sessions.map((s) => (
                <SessionLine key={s.id} session={s} />
              ))}
            </ul>
          </section>
        </div>
      </div>
    </div>
  )
}

function SessionLine({ session: s }: { session: Api['SessionLine'] }) {
  const client = useQueryClient()
  const end = useAct(
    () =>
      body(
        api.DELETE('/api/account/sessions/{session}', { params: { path: { session: s.id } } }),
        w.errors.away,
      ),
    () => {
      void client.invalidateQueries({ queryKey: accountKey })
      tell({ text: w.account.ended })
    },
  )
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4 border-t border-line py-2">
      <span className="min-w-0">
        <span className="block truncate" title={s.browser}>
          {browserName(s.browser) ?? w.account.unknown}
        </span>
        <span className="block text-small text-quiet">
          {s.address}, {w.account.seen(moment(s.seen))}
        </span>
      </span>
      {s.here ? (
        <span className="text-small font-semibold text-plum">{w.account.here}</span>
      ) : (
        <Button look="word" className="text-small" onClick={() => end.mutate(undefined)}>
          {w.account.end}
        </Button>
      )}
    </li>
  )
}

function Password() {
  const client = useQueryClient()
  return (
    <section aria-label={w.account.password}>
      <h2 className="mb-3 text-lead">{w.account.password}</h2>
      <LineForm
        verb={w.account.change}
        done={w.account.changed}
        send={async (text) => {
          await body(
            api.PUT('/api/account/password', {
              body: { current: text('current'), password: text('password') },
            }),
            w.errors.away,
          )
          void client.invalidateQueries({ queryKey: accountKey })
        }}
      >
        {(faults) => (
          <>
            <CurrentPassword label={w.account.current} fault={faults.current} />
            <LineField
              name="password"
              label={w.account.next}
              type="password"
              complete="new-password"
              fault={faults.password}
            />
          </>
        )}
      </LineForm>
    </section>
  )
}
