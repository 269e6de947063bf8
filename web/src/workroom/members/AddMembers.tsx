import { useQueryClient } from '@tanstack/react-query'
import { useId, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useSession } from '../shell/data'
import { LineForm } from '../shell/LineForm'
import { refresh } from '../shell/refresh'

/** Makes everybody of a list a member; what is wrong with a line is said of that line. */
export function AddMembers({ groups }: { groups: readonly Api['GroupLine'][] }) {
  const client = useQueryClient()
  const hasMail = useSession().data?.hasMail ?? false
  const [group, setGroup] = useState('')
  const [write, setWrite] = useState<'yes' | 'no'>('yes')
  const [done, setDone] = useState<Api['MembersAdded'] | null>(null)
  const id = useId()

  async function send(text: (name: string) => string) {
    setDone(null)
    const added = await body(
      api.POST('/api/members', {
        body: { list: text('list'), group: group || null, write: hasMail && write === 'yes' },
      }),
      w.errors.away,
    )
    setDone(added)
    refresh(client)
  }

  return (
    <section aria-label={w.members.add} className="min-w-0">
      <h2 className="text-lead">{w.members.add}</h2>
      <p className="mt-2 mb-4 text-small text-quiet">{w.members.addLead}</p>
      <LineForm verb={w.members.doAdd} look="next" send={send}>
        {(faults) => (
          <>
            <label className="block">
              <span className="block text-small text-quiet">{w.members.list}</span>
              <textarea
                name="list"
                rows={5}
                required
                placeholder={w.members.addHint}
                aria-invalid={!!faults.list}
                aria-describedby={faults.list ? id : undefined}
                className="w-full resize-y border border-strong-line bg-transparent px-2 py-1.5 outline-none focus:border-plum"
              />
              {faults.list && (
                <span id={id} className="block text-small font-semibold">
                  {faults.list}
                </span>
              )}
            </label>
            <p>
              {groups.length > 0 && (
                <>
                  {w.members.into}{' '}
                  <WordSelect
                    label={w.members.into}
                    value={group}
                    choices={[['', w.members.noneInto], ...groups.map((g) => [g.id, g.name] as const)]}
                    onChoose={setGroup}
                  />
                  {hasMail && ` ${w.members.and} `}
                </>
              )}
              {hasMail && (
                <WordSelect
                  label={w.members.writeLabel}
                  value={write}
                  choices={[
                    ['yes', groups.length > 0 ? w.members.write : w.members.writeAlone],
                    ['no', groups.length > 0 ? w.members.dontWrite : w.members.dontWriteAlone],
                  ]}
                  onChoose={setWrite}
                />
              )}
            </p>
            <p className="text-small text-quiet">
              {!hasMail ? w.members.noMail : write === 'yes' ? w.members.withLetter : w.members.withoutLetter}
            </p>
          </>
        )}
      </LineForm>
      {done && (
        <div role="status" className="border-l-2 border-plum pl-4">
          <p>{w.members.added(done.added, done.joined, done.working, done.letters)}</p>
          {done.refused.length > 0 && (
            <>
              <p className="mt-2 font-semibold">{w.members.refused(done.refused.length)}:</p>
              <ul className="max-h-48 overflow-y-auto text-small">
                {done.refused.map((line) => (
                  <li key={line.line}>{w.members.line(line.line, line.words, line.why)}</li>
                ))}
              </ul>
            </>
          )}
        </div>
      )}
    </section>
  )
}
