import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { Popover } from '../../kit/Popover'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { tell } from '../shell/news'

type Person = Api['StaffLine']

/** Somebody who works on the site: what they are, when they were here, and what an owner does for them. */
export function StaffRow({ person }: { person: Person }) {
  const path = { params: { path: { account: person.id } } }
  const make = useAct(
    (role: 'owner' | 'editor') =>
      body(api.PUT('/api/people/{account}/role', { ...path, body: { role } }), w.errors.away),
    (_, role) => tell({ text: w.people.made(person.name, w.people.parts[role]) }),
  )
  return (
    <li className="grid min-h-16 grid-cols-[minmax(0,1fr)_5.5rem_11rem_5.75rem] items-center gap-x-4 gap-y-1 border-t border-line py-2.5 max-sm:grid-cols-[minmax(0,1fr)_auto]">
      <span className="min-w-0">
        <span className="block truncate font-semibold" title={person.name}>
          {person.name}
          {person.isOneself && <span className="font-normal text-plum"> {w.people.oneself}</span>}
        </span>
        <span className="block truncate text-small text-quiet" title={person.email}>
          {person.email}
        </span>
      </span>
      <span>
        {person.isOneself ? (
          w.people.parts[person.role]
        ) : (
          <WordSelect
            label={w.people.part(person.name)}
            value={person.role === 'owner' ? 'owner' : 'editor'}
            choices={[
              ['owner', w.people.parts.owner],
              ['editor', w.people.parts.editor],
            ]}
            onChoose={(role) => make.mutate(role)}
          />
        )}
      </span>
      <span className="min-w-0 text-small text-quiet">
        <span className="block truncate">
          {person.isOneself
            ? w.people.hereNow
            : person.seen
              ? w.people.seen(moment(person.seen))
              : w.people.never}
        </span>
        {person.hasSecondStep && <span className="block">{w.people.second}</span>}
      </span>
      {person.isOneself ? <span /> : <LookAfter person={person} />}
    </li>
  )
}

function LookAfter({ person }: { person: Person }) {
  const [open, setOpen] = useState(false)
  const [asking, setAsking] = useState(false)
  const path = { params: { path: { account: person.id } } }
  const done = (text: string) => () => {
    setOpen(false)
    setAsking(false)
    tell({ text })
  }
  const signOut = useAct(
    () => body(api.DELETE('/api/people/{account}/sessions', path), w.errors.away),
    done(w.people.signedOut(person.name)),
  )
  const stepOff = useAct(
    () => body(api.DELETE('/api/people/{account}/second-step', path), w.errors.away),
    done(w.people.stepIsOff(person.name)),
  )
  const takeOut = useAct(
    () => body(api.DELETE('/api/people/{account}', path), w.errors.away),
    done(w.people.takenOut(person.name)),
  )
  return (
    <>
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.people.afterOf(person.name)}
        trigger={
          <Button look="word" className="justify-self-start" aria-label={w.people.afterOf(person.name)}>
            {w.people.after}
          </Button>
        }
      >
        <div className="grid max-w-[19rem] gap-4">
          <Verb verb={w.people.signOut} what={w.people.signOutWhat} onDo={() => signOut.mutate(undefined)} />
          {person.hasSecondStep && (
            <Verb
              verb={w.people.stepOff}
              what={w.people.stepOffWhat}
              onDo={() => stepOff.mutate(undefined)}
            />
          )}
          <Verb
            verb={w.people.takeOut}
            what={w.people.takeOutWhat}
            onDo={() => {
              setOpen(false)
              setAsking(true)
            }}
          />
        </div>
      </Popover>
      <Dialog open={asking} onClose={() => setAsking(false)} title={w.people.takeOutAsk(person.name)}>
        <p className="mt-3">{w.people.takeOutWhat}</p>
        <p className="mt-1">{w.people.takeOutText}</p>
        <div className="mt-5 flex gap-4">
          <Button look="next" onClick={() => takeOut.mutate(undefined)}>
            {w.people.takeOut}
          </Button>
          <Button onClick={() => setAsking(false)}>{w.people.keep}</Button>
        </div>
      </Dialog>
    </>
  )
}

/** A verb, and beneath it what it does. */
function Verb({ verb, what, onDo }: { verb: string; what: string; onDo: () => void }) {
  return (
    <span>
      <Button look="word" onClick={onDo}>
        {verb}
      </Button>
      <span className="mt-1 block text-small text-quiet">{what}</span>
    </span>
  )
}
