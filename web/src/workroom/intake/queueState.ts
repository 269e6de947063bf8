import { useSyncExternalStore } from 'react'
import type { Brought } from './brought'
import { Pace } from './pace'

/** One file on its way in. */
export type Sending = Brought & {
  key: number
  state: 'queued' | 'sending' | 'here' | 'broke' | 'refused'
  sent: number
  reason?: string
  /** Where its upload stands on the server, once it has begun. */
  url?: string
  /** Its sending was stopped before the server could say what came of it. */
  unsure?: boolean
}

/** What is shown of the queue; a new one for each frame of the screen in which something changed. */
export type QueueState = {
  intake: string | null
  items: readonly Sending[]
  counts: Record<Sending['state'], number>
  /** Bytes of all files, and of those how many are on the server. */
  all: number
  sent: number
  paused: boolean
  secondsLeft: number | null
}

const kept = 'jovitar-intake-at-work'

/** The files of this sitting and where each stands: the one place that knows, and the only one that changes it. */
class QueueOwner {
  intake: string | null = null
  paused = false
  readonly pace = new Pace()
  private all: Sending[] = []
  private byKey = new Map<number, Sending>()
  private next = 1
  private redraw = 0
  private readonly listeners = new Set<() => void>()
  private shown: QueueState = this.picture()

  get items(): readonly Sending[] {
    return this.all
  }

  get state() {
    return this.shown
  }

  /** Begins anew with another intake. */
  clear() {
    this.all = []
    this.byKey.clear()
    this.pace.reset()
    this.publish()
  }

  add(files: readonly (Omit<Sending, 'key' | 'sent'> & { sent?: number })[]) {
    for (const file of files) {
      const item: Sending = { sent: 0, ...file, key: this.next++ }
      this.all.push(item)
      this.byKey.set(item.key, item)
    }
    this.publish()
  }

  change(key: number, to: Partial<Sending>) {
    const item = this.byKey.get(key)
    if (item) Object.assign(item, to)
    this.publish()
  }

  /** Takes up again what a broken line stopped. */
  requeueBroken() {
    for (const item of this.all) if (item.state === 'broke') item.state = 'queued'
    this.publish()
  }

  /** Keeps only what has come to an end. */
  dropOpen() {
    this.all = this.all.filter((i) => i.state === 'here' || i.state === 'refused')
    this.byKey = new Map(this.all.map((i) => [i.key, i]))
    this.publish()
    localStorage.removeItem(kept)
  }

  nextQueued() {
    return this.all.find((i) => i.state === 'queued')
  }

  isSending() {
    return this.all.some((i) => i.state === 'queued' || i.state === 'sending')
  }

  subscribe = (listener: () => void) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  publish() {
    // Progress comes in floods; a redraw for each frame of the screen is enough.
    if (this.redraw) return
    this.redraw = requestAnimationFrame(() => {
      this.redraw = 0
      this.shown = this.picture()
      this.remember()
      for (const listener of this.listeners) listener()
    })
  }

  private picture(): QueueState {
    const counts = { queued: 0, sending: 0, here: 0, broke: 0, refused: 0 }
    let all = 0
    let sent = 0
    for (const item of this.all) {
      counts[item.state]++
      if (item.state === 'refused') continue
      all += item.file.size
      sent += item.state === 'here' ? item.file.size : Math.min(item.sent, item.file.size)
    }
    const secondsLeft = this.paused ? null : this.pace.left(sent, all)
    return { intake: this.intake, items: [...this.all], counts, all, sent, paused: this.paused, secondsLeft }
  }

  /** What is still to come is remembered over a reload: the browser lets go of the files, but not of where they stood. */
  private remember() {
    const { counts } = this.shown
    if (this.intake && counts.queued + counts.sending + counts.broke > 0)
      localStorage.setItem(
        kept,
        JSON.stringify({ intake: this.intake, files: this.all.length - counts.refused }),
      )
    else if (this.all.length > 0) localStorage.removeItem(kept)
  }
}

export const owner = new QueueOwner()

/** An intake that was interrupted by closing or reloading the page, with how many files it was to have. */
export function interrupted(): { intake: string; files: number } | null {
  if (owner.items.length > 0) return null
  try {
    const found: unknown = JSON.parse(localStorage.getItem(kept) ?? 'null')
    return typeof found === 'object' && found !== null && 'intake' in found && 'files' in found
      ? { intake: String(found.intake), files: Number(found.files) }
      : null
  } catch {
    return null
  }
}

export function forgetInterrupted() {
  localStorage.removeItem(kept)
  owner.publish()
}

/** The files of this sitting. They go on being sent while one walks through other stations. */
export function useQueue() {
  return useSyncExternalStore(owner.subscribe, () => owner.state)
}
