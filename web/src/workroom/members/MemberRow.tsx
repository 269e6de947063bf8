import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { asWord, Button, Choice } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { Popover } from '../../kit/Popover'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { MemberSight } from '../access/audience/MemberSight'
import { useAct, useSession } from '../shell/data'
import { moment } from '../shell/format'
import { tell } from '../shell/news'
import type { Member } from './data'
import { MemberLink } from './MemberLink'
import { EraseDialog, PersonalData } from './PersonalData'

type Group = Api['GroupLine']

/** A member: their groups, when they were here, and what is done for them. */
export function MemberRow({ member, groups }: { member: Member; groups: readonly Group[] }) {
  const names = groups.filter((g) => member.groups.includes(g.id)).map((g) => g.name)
  return (
    <li className="grid min-h-14 grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)_5.75rem] items-center gap-x-4 border-t border-line py-2 max-sm:grid-cols-[minmax(0,1fr)_auto]">
      <span className="min-w-0">
        <span className="block truncate font-semibold" title={member.name}>
          {member.name}
        </span>
        <span className="block truncate text-small text-quiet" title={member.email}>
          {member.email}
        </span>
      </span>
      <span className="min-w-0 text-small max-sm:hidden">
        <span className="block truncate" title={names.join(', ')}>
          {names.length > 0 ? names.join(', ') : <span className="text-quiet">{w.members.noGroup}</span>}
        </span>
        <span className="block truncate text-quiet">
          {member.seen ? w.members.seen(moment(member.seen)) : w.members.never}
        </span>
      </span>
      <LookAfter member={member} groups={groups} />
    </li>
  )
}

function LookAfter({ member, groups }: { member: Member; groups: readonly Group[] }) {
  const [open, setOpen] = useState(false)
  const [asking, setAsking] = useState(false)
  const [looking, setLooking] = useState(false)
  const [erasing, setErasing] = useState(false)
  const owner = useSession().data?.role === 'owner'
  const path = { params: { path: { member: member.id } } }
  const change = useAct((wish: Api['MemberWish']) =>
    body(api.PATCH('/api/members/{member}', { ...path, body: wish }), w.errors.away),
  )
  const say = useAct((contributing: Api['Contributing']) =>
    body(api.PUT('/api/members/{member}/contributing', { ...path, body: { contributing } }), w.errors.away),
  )
  const end = useAct(
    () => body(api.DELETE('/api/members/{member}', path), w.errors.away),
    () => {
      setAsking(false)
      tell({ text: w.members.ended(member.name) })
    },
  )
  function rename(name: string) {
    if (name.trim() && name.trim() !== member.name) change.mutate({ name: name.trim() })
  }
  return (
    <>
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.members.afterOf(member.name)}
        trigger={
          <Button look="word" className="justify-self-start" aria-label={w.members.afterOf(member.name)}>
            {w.members.after}
          </Button>
        }
      >
        <div className="grid gap-4">
          <label className="block">
            <span className="block text-small text-quiet">{w.members.name}</span>
            <input
              key={member.name}
              defaultValue={member.name}
              maxLength={120}
              className="w-full border-b border-strong-line bg-transparent py-1 outline-none focus:border-plum"
              onBlur={(e) => rename(e.currentTarget.value)}
              onKeyDown={(e) => {
                if (e.key === 'Enter') rename(e.currentTarget.value)
              }}
            />
          </label>
          <div>
            <p className="text-small text-quiet">
              {groups.length > 0 ? w.members.groups : w.members.noGroups}
            </p>
            <p className="flex max-h-40 flex-wrap gap-x-4 gap-y-1 overflow-y-auto">
              {groups.map((group) => {
                const on = member.groups.includes(group.id)
                return (
                  <Choice
                    key={group.id}
                    on={on}
                    onClick={() => change.mutate(on ? { outOf: [group.id] } : { into: [group.id] })}
                  >
                    {group.name}
                  </Choice>
                )
              })}
            </p>
          </div>
          <div>
            <p className="text-small text-quiet">{w.contributions.member}</p>
            <WordSelect
              label={w.contributions.member}
              value={member.contributing}
              choices={(['no', 'waits', 'trusted'] as const).map((c) => [c, w.contributions.contributing[c]])}
              onChoose={(contributing) => say.mutate(contributing)}
            />
            {member.contributing !== 'no' && (
              <p className="mt-1 text-small text-quiet">{w.contributions.memberLead}</p>
            )}
          </div>
          <Link
            to="/workroom/records"
            search={{ member: member.id }}
            className={`justify-self-start ${asWord}`}
          >
            {w.records.see}
          </Link>
          <Button
            look="word"
            className="justify-self-start"
            onClick={() => {
              setOpen(false)
              setLooking(true)
            }}
          >
            {w.viewers.what}
          </Button>
          <MemberLink member={member} />
          {owner && (
            <PersonalData
              member={member}
              onErase={() => {
                setOpen(false)
                setErasing(true)
              }}
            />
          )}
          <span>
            <Button
              look="word"
              onClick={() => {
                setOpen(false)
                setAsking(true)
              }}
            >
              {w.members.end}
            </Button>
            <span className="mt-1 block text-small text-quiet">{w.members.endWhat}</span>
          </span>
        </div>
      </Popover>
      {erasing && <EraseDialog member={member} onClose={() => setErasing(false)} />}
      {looking && <MemberSight member={member.id} name={member.name} onClose={() => setLooking(false)} />}
      <Dialog open={asking} onClose={() => setAsking(false)} title={w.members.endAsk(member.name)}>
        <p className="mt-3">{w.members.endWhat}</p>
        <p className="mt-1">{w.members.endText}</p>
        <div className="mt-5 flex gap-4">
          <Button look="next" onClick={() => end.mutate(undefined)}>
            {w.members.end}
          </Button>
          <Button onClick={() => setAsking(false)}>{w.members.keep}</Button>
        </div>
      </Dialog>
    </>
  )
}
