import { useState } from 'react'
import { Choice } from '../../../kit/Button'
import { Dialog } from '../../../kit/Dialog'
import { SearchField } from '../../../kit/SearchField'
import { w } from '../../../words'
import { ShowMore } from '../../shell/ShowMore'
import type { AudienceOf } from './data'
import { SeeAs } from './SeeAs'
import { SightLine, Why } from './SightLine'
import { useViewers } from './viewers'

/** Who can see a thing, by name, and why the others cannot; each leads to the site as they have it. */
export function ViewersDialog({ of, onClose }: { of: AudienceOf; onClose: () => void }) {
  const [q, setQ] = useState('')
  const [not, setNot] = useState(false)
  const list = useViewers(of, q.trim(), not)
  const first = list.data?.pages[0]
  if (!first)
    return list.error ? (
      <Dialog open onClose={onClose} title={w.viewers.byName}>
        <p role="alert" className="mt-3">
          {list.error.message}
        </p>
      </Dialog>
    ) : null
  const members = list.data?.pages.flatMap((p) => p.window) ?? []
  // Photos have no address of their own.
  const at = of.kind === 'photo' ? undefined : of
  return (
    <Dialog open onClose={onClose} title={w.viewers.title(first.name)} wide>
      <ul className="mt-4">
        <SightLine
          name={w.viewers.anybody}
          sees={first.everyone.length === 0}
          said={w.viewers.sees(first.everyone.length === 0)}
          why={first.everyone}
          see={<SeeAs as="anybody" who={w.viewers.anybody} at={at} />}
        />
        {first.entries.map((entry) => (
          <SightLine
            key={entry.id}
            name={w.viewers.entry[entry.kind](entry.name)}
            sees={entry.why.length === 0}
            said={w.viewers.sees(entry.why.length === 0)}
            why={entry.why}
            see={<SeeAs as={`holder-${entry.id}`} who={entry.name} at={at} />}
          />
        ))}
        {first.groups.map((group) => (
          <SightLine
            key={group.id}
            name={w.viewers.group(group.name)}
            sees={group.seeing > 0}
            said={w.viewers.of(group.seeing, group.members)}
            see={<SeeAs as={`group-${group.id}`} who={w.viewers.group(group.name)} at={at} />}
          />
        ))}
      </ul>
      <section aria-label={w.viewers.members} className="mt-6 border-t border-strong-line pt-4">
        <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2 pb-2">
          <h3 className="text-lead">{w.viewers.members}</h3>
          {first.members === 0 ? (
            <span className="text-quiet">{w.viewers.noMembers}</span>
          ) : (
            <>
              <Choice on={!not} onClick={() => setNot(false)}>
                {w.viewers.can(first.seeing)}
              </Choice>
              <Choice on={not} onClick={() => setNot(true)}>
                {w.viewers.cannot(first.members - first.seeing)}
              </Choice>
              <SearchField label={w.viewers.search} value={q} onType={setQ} className="ml-auto" />
            </>
          )}
        </div>
        {first.members > 0 && members.length === 0 && (
          <p className="border-t border-line py-2.5 text-quiet">
            {q.trim() ? w.viewers.noneLike : not ? w.viewers.noneCannot : w.viewers.noneCan}
          </p>
        )}
        <ul>
          {members.map((member, i) => (
            <li key={member.id} className="border-t border-line py-2">
              {member.why.length > 0 && member.why.join() !== members[i - 1]?.why.join() && (
                <span className="mb-1.5 block">
                  <Why why={member.why} />
                </span>
              )}
              <span className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-4">
                <span className="min-w-0 truncate">
                  <span className="font-semibold">{member.name}</span>{' '}
                  <span className="text-small text-quiet">{member.email}</span>
                </span>
                <SeeAs as={`person-${member.id}`} who={member.name} at={at} />
              </span>
            </li>
          ))}
        </ul>
        <ShowMore of={list}>{w.viewers.more(Math.min(50, first.found - members.length))}</ShowMore>
      </section>
      <p className="mt-6 border-t border-strong-line pt-4 text-small text-quiet">
        {w.viewers.staff(first.staff)}
      </p>
    </Dialog>
  )
}
