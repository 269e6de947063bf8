import { useState } from 'react'
import { asPlain, Choice } from '../../kit/Button'
import { SearchField } from '../../kit/SearchField'
import { w } from '../../words'
import { useGroups } from '../shell/data'
import { ShowMore } from '../shell/ShowMore'
import { Empty, Heading } from '../shell/Station'
import { AddMembers } from './AddMembers'
import { useMembers } from './data'
import { GroupList } from './GroupList'
import { Joining } from './Joining'
import { MemberRow } from './MemberRow'

/** Visitors whom the site knows, and the groups that they are in. */
export function MembersStation() {
  const [q, setQ] = useState('')
  const [group, setGroup] = useState<string | null>(null)
  const list = useMembers(q.trim(), group)
  const groups = useGroups().data ?? []
  const first = list.data?.pages[0]
  if (!first) return list.error ? <p className="px-[30px] pt-7 font-semibold">{list.error.message}</p> : null
  const members = list.data?.pages.flatMap((p) => p.members) ?? []
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.members.title}
        lead={w.members.lead}
        right={
          first.all > 0 && (
            <a href="/api/members/list.csv" download className={asPlain}>
              {w.members.table}
            </a>
          )
        }
      />
      <div className="mt-7 grid grid-cols-[minmax(0,1fr)_18rem] gap-x-14 gap-y-10 max-lg:grid-cols-1">
        <section aria-label={w.members.title} className="min-w-0">
          <Joining groups={groups} />
          {first.all === 0 ? (
            <Empty title={w.members.nobody} lead={w.members.nobodyText} />
          ) : (
            <>
              <div className="flex flex-wrap items-baseline gap-x-5 gap-y-2 pb-3">
                <SearchField label={w.members.search} value={q} onType={setQ} />
                <span role="status" className="text-small text-quiet">
                  {w.members.found(first.found, first.all)}
                </span>
                {groups.length > 0 && (
                  <fieldset className="flex basis-full flex-wrap gap-x-4 gap-y-1">
                    <legend className="sr-only">{w.members.inGroup}</legend>
                    <Choice on={group === null} onClick={() => setGroup(null)}>
                      {w.members.all}
                    </Choice>
                    {groups.map((each) => (
                      <Choice key={each.id} on={group === each.id} onClick={() => setGroup(each.id)}>
                        {each.name}
                      </Choice>
                    ))}
                  </fieldset>
                )}
              </div>
              {members.length === 0 ? (
                <Empty title={w.members.notFound} lead={w.members.notFoundText} />
              ) : (
                <ul>
                  {members.map((member) => (
                    <MemberRow key={member.id} member={member} groups={groups} />
                  ))}
                </ul>
              )}
              <ShowMore of={list}>{w.members.more(Math.min(100, first.found - members.length))}</ShowMore>
            </>
          )}
        </section>
        <div className="grid min-w-0 content-start gap-10">
          <AddMembers groups={groups} />
          <GroupList groups={groups} />
        </div>
      </div>
    </div>
  )
}
