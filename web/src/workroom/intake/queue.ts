import type { Api } from '../../api/client'
import { w } from '../../words'
import { bytes } from '../shell/format'
import { type Brought, mostFor } from './brought'
import { known } from './known'
import { owner } from './queueState'
import { giveUp, halt, pump } from './sender'

/** Adds files to an intake. What is larger than the site takes is not sent at all; what is there already is not sent again; what was cut off goes on. */
export async function send(files: readonly Brought[], into: string, takes: Api['WhatIsTaken']) {
  if (into !== owner.intake && !owner.isSending()) owner.clear()
  owner.intake = into
  owner.paused = false
  const { here, urlOf } = await known(into, files)
  owner.add(
    files.map((brought, n) => {
      const most = mostFor(brought.file.name, takes)
      if (here.has(n)) return { ...brought, state: 'here' as const, sent: brought.file.size }
      if (brought.file.size > most)
        return { ...brought, state: 'refused' as const, reason: w.intake.tooLarge(bytes(most)) }
      const url = urlOf(brought)
      return { ...brought, state: 'queued' as const, ...(url && { url }) }
    }),
  )
  pump()
}

/** Stops sending for now; what is on the server stays there. */
export function pause() {
  owner.paused = true
  halt()
  owner.pace.reset()
  owner.publish()
}

export async function goOn() {
  // What was stopped on its last bytes may be there all the same.
  const unsure = owner.items.filter((i) => i.unsure && i.state === 'queued')
  if (owner.intake && unsure.length > 0) {
    const said = await known(owner.intake, unsure).catch(() => null)
    for (const [n, item] of unsure.entries())
      owner.change(item.key, { unsure: false, ...(said?.here.has(n) && { state: 'here' }) })
  }
  owner.paused = false
  owner.pace.reset()
  owner.requeueBroken()
  pump()
}

/** Gives up what has not arrived yet; what has arrived stays. */
export function cancel() {
  giveUp()
  owner.paused = false
  owner.dropOpen()
}

export function isSending() {
  return owner.isSending()
}

window.addEventListener('online', () => !owner.paused && void goOn())
window.addEventListener('beforeunload', (e) => {
  if (isSending()) e.preventDefault()
})
