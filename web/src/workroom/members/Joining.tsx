import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useAct, useSession } from '../shell/data'
import { moment } from '../shell/format'
import { tell } from '../shell/news'
import { useWishes } from './data'

/** How visitors become members, and those who asked and wait for an answer. */
export function Joining({ groups }: { groups: readonly Api['GroupLine'][] }) {
  const owner = useSession().data?.role === 'owner'
  const wishes = useWishes().data
  const say = useAct((joining: Api['Joining']) =>
    body(api.PUT('/api/members/joining', { body: { joining } }), w.errors.away),
  )
  if (!wishes) return null
  const { joining } = wishes
  return (
    <section aria-label={w.members.joining} className="mb-8">
      <p>
        {owner ? (
          <WordSelect
            label={w.members.joining}
            value={joining}
            choices={(['closed', 'asked', 'open'] as const)
              .filter((choice) => choice !== 'open' || wishes.hasMail || joining === 'open')
              .map((choice) => [choice, w.members.joins[choice]] as const)}
            onChoose={(choice) => say.mutate(choice)}
          />
        ) : (
          <span>{w.members.joins[joining]}</span>
        )}{' '}
        {joining !== 'closed' && (
          <span className="text-small text-quiet">
            {w.members.joinsAt}{' '}
            <a
              href="/sign-in/join"
              target="_blank"
              rel="noreferrer"
              className="underline decoration-strong-line decoration-1 underline-offset-4"
            >
              {new URL('/sign-in/join', window.location.href).host}/sign-in/join
            </a>
          </span>
        )}
      </p>
      {wishes.all > 0 && <Waiting wishes={wishes} groups={groups} />}
    </section>
  )
}

function Waiting({ wishes, groups }: { wishes: Api['JoinWindow']; groups: readonly Api['GroupLine'][] }) {
  const [group, setGroup] = useState('')
  const accept = useAct(
    (chosen: string[]) =>
      body(
        api.POST('/api/members/wishes/accept', { body: { wishes: chosen, group: group || null } }),
        w.errors.away,
      ),
    (done) => tell({ text: w.members.added(done.added, done.joined, done.working, done.letters) }),
  )
  const refuse = useAct((chosen: string[]) =>
    body(api.POST('/api/members/wishes/refuse', { body: { wishes: chosen } }), w.errors.away),
  )
  return (
    <section aria-label={w.members.asking(wishes.all)} className="mt-5 border-t-2 border-plum pt-3">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pb-2">
        <h2 className="text-lead">{w.members.asking(wishes.all)}</h2>
        {groups.length > 0 && (
          <span className="text-small">
            {w.members.acceptInto}{' '}
            <WordSelect
              label={w.members.acceptInto}
              value={group}
              choices={[['', w.members.noneInto], ...groups.map((g) => [g.id, g.name] as const)]}
              onChoose={setGroup}
            />
          </span>
        )}
        {wishes.waiting.length > 1 && (
          <Button
            look="word"
            className="ml-auto text-small"
            onClick={() => accept.mutate(wishes.waiting.map((one) => one.id))}
          >
            {w.members.acceptAll(wishes.waiting.length)}
          </Button>
        )}
      </div>
      <ul>
        {wishes.waiting.map((one) => (
          <li
            key={one.id}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 border-t border-line py-2"
          >
            <span className="min-w-0">
              <span className="block truncate" title={one.name}>
                <span className="font-semibold">{one.name}</span>{' '}
                <span className="text-small text-quiet">{one.email}</span>
              </span>
              <span className="block text-small break-words text-quiet">
                {moment(one.made)}: {one.isKnown ? w.members.askedKnown : one.words || w.members.askedNothing}
              </span>
            </span>
            <span className="flex items-baseline gap-x-4">
              <Button aria-label={w.members.acceptOf(one.name)} onClick={() => accept.mutate([one.id])}>
                {w.members.accept}
              </Button>
              <Button
                look="word"
                aria-label={w.members.refuseOf(one.name)}
                onClick={() => refuse.mutate([one.id])}
              >
                {w.members.refuse}
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
