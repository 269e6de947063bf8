import { useQueryClient } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { LineField } from '../../kit/LineField'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { LineForm } from '../shell/LineForm'
import { tell } from '../shell/news'
import { refresh } from '../shell/refresh'

type Group = Api['GroupLine']

/** The groups that there are: named in place, made and removed. */
export function GroupList({ groups }: { groups: readonly Group[] }) {
  const client = useQueryClient()
  async function make(text: (name: string) => string) {
    await body(api.POST('/api/groups', { body: { name: text('name').trim() } }), w.errors.away)
    refresh(client)
  }
  return (
    <section aria-label={w.members.group} className="min-w-0">
      <h2 className="text-lead">{w.members.group}</h2>
      <p className="mt-2 mb-3 text-small text-quiet">{w.members.groupLead}</p>
      <ul className="mb-5">
        {groups.map((group) => (
          <GroupRow key={group.id} group={group} />
        ))}
      </ul>
      <LineForm verb={w.members.makeGroup} send={make}>
        {(faults) => <LineField name="name" label={w.members.newGroup} complete="off" fault={faults.name} />}
      </LineForm>
    </section>
  )
}

function GroupRow({ group }: { group: Group }) {
  const path = { params: { path: { group: group.id } } }
  const rename = useAct((name: string) =>
    body(api.PUT('/api/groups/{group}', { ...path, body: { name } }), w.errors.away),
  )
  const remove = useAct(
    () => body(api.DELETE('/api/groups/{group}', path), w.errors.away),
    () => tell({ text: w.members.removedGroup(group.name) }),
  )
  function take(name: string) {
    if (name.trim() && name.trim() !== group.name) rename.mutate(name.trim())
  }
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto_auto] items-baseline gap-x-4 border-t border-line py-1.5">
      <input
        key={group.name}
        aria-label={w.members.renameGroup(group.name)}
        defaultValue={group.name}
        maxLength={120}
        className="min-w-0 truncate border-b border-transparent bg-transparent outline-none hover:border-line focus:border-plum"
        onBlur={(e) => take(e.currentTarget.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') e.currentTarget.blur()
          if (e.key === 'Escape') e.currentTarget.value = group.name
        }}
      />
      <span className="text-small text-quiet tabular-nums">{w.members.members(group.members)}</span>
      <Button
        look="word"
        className="text-small"
        aria-label={w.members.removeGroupOf(group.name)}
        onClick={() => remove.mutate(undefined)}
      >
        {w.members.removeGroup}
      </Button>
    </li>
  )
}
