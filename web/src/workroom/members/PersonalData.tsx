import { useState } from 'react'
import { api, body } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tell } from '../shell/news'
import type { Member } from './data'

/** What is kept of a member: saved to be handed to them, and erased. */
export function PersonalData({ member, onErase }: { member: Member; onErase: () => void }) {
  return (
    <span>
      <span className="flex flex-wrap gap-x-4">
        <a href={`/api/members/${member.id}/kept.json`} download className={asWord}>
          {w.members.kept}
        </a>
        <Button look="word" onClick={onErase}>
          {w.members.erase}
        </Button>
      </span>
      <span className="mt-1 block text-small text-quiet">{w.members.keptWhat}</span>
    </span>
  )
}

/** Asks once more, for nothing brings it back. */
export function EraseDialog({ member, onClose }: { member: Member; onClose: () => void }) {
  const [typed, setTyped] = useState('')
  const erase = useAct(
    () =>
      body(
        api.POST('/api/members/{member}/erase', { params: { path: { member: member.id } } }),
        w.errors.away,
      ),
    () => {
      onClose()
      tell({ text: w.members.erased })
    },
  )
  const isSure = typed.trim() === member.name
  return (
    <Dialog open onClose={onClose} title={w.members.eraseAsk(member.name)}>
      <p className="mt-3">{w.members.eraseGoes}</p>
      <p className="mt-2">{w.members.eraseStays}</p>
      <label className="mt-4 block">
        <span className="block text-small text-quiet">{w.members.eraseType(member.name)}</span>
        <input
          value={typed}
          autoComplete="off"
          className="w-full border-b border-strong-line bg-transparent py-1 outline-none focus:border-plum"
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      <div className="mt-5 flex gap-4">
        <Button look="next" disabled={!isSure || erase.isPending} onClick={() => erase.mutate(undefined)}>
          {w.members.eraseNow}
        </Button>
        <Button onClick={onClose}>{w.members.keep}</Button>
      </div>
    </Dialog>
  )
}
