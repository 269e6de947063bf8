import { useSyncExternalStore } from 'react'
import { DetailedError, Upload as Tus } from 'tus-js-client'
import { type Api, api, body, forgeryToken } from '../../api/client'
import { w } from '../../words'
import { bytes } from '../shell/format'
import { type Brought, mostFor } from './brought'
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

const atOnce = 4
/** A file up to this size goes with its first request; a larger one is announced first, so that it can go on after a break. */
const inOne = 1 << 20
const kept = 'jovitar-intake-at-work'
const listeners = new Set<() => void>()
const pace = new Pace()
let items: Sending[] = []
let intake: string | null = null
let paused = false
let next = 1
let told = 0
let waiting = 0
const running = new Map<number, Tus>()
let state: QueueState = picture()

function picture(): QueueState {
  const counts = { queued: 0, sending: 0, here: 0, broke: 0, refused: 0 }
  let all = 0
  let sent = 0
  for (const item of items) {
    counts[item.state]++
    if (item.state === 'refused') continue
    all += item.file.size
    sent += item.state === 'here' ? item.file.size : Math.min(item.sent, item.file.size)
  }
  return { intake, items, counts, all, sent, paused, secondsLeft: paused ? null : pace.left(sent, all) }
}

function publish() {
  // Progress comes in floods; a redraw for each frame of the screen is enough.
  if (told) return
  told = requestAnimationFrame(() => {
    told = 0
    items = [...items]
    state = picture()
    remember()
    for (const listener of listeners) listener()
  })
}

/** What is still to come is remembered over a reload: the browser lets go of the files, but not of where they stood. */
function remember() {
  const open = state.counts.queued + state.counts.sending + state.counts.broke
  if (intake && open > 0)
    localStorage.setItem(kept, JSON.stringify({ intake, files: items.length - state.counts.refused }))
  else if (items.length > 0) localStorage.removeItem(kept)
}

/** An intake that was interrupted by closing or reloading the page, with how many files it was to have. */
export function interrupted(): { intake: string; files: number } | null {
  if (items.length > 0) return null
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
  publish()
}

/** The files of this sitting. They go on being sent while one walks through other stations. */
export function useQueue() {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => state,
  )
}

export function isSending() {
  return items.some((i) => i.state === 'queued' || i.state === 'sending')
}

/** Adds files to an intake. What is larger than the site takes is not sent at all; what is there already is not sent again; what was cut off goes on. */
export async function send(files: readonly Brought[], into: string, limits: Api['IntakeLimits']) {
  if (into !== intake && !isSending()) {
    items = []
    pace.reset()
  }
  intake = into
  paused = false
  const here = new Set<number>()
  const open = new Map<string, string>()
  for (let from = 0; from < files.length; from += 2000) {
    const known = await whatIsHere(into, files.slice(from, from + 2000))
    for (const n of known.here) here.add(from + n)
    for (const o of known.open) open.set(`${o.path}/${o.fileName}/${o.bytes}`, `/api/uploads/${o.id}`)
  }
  items = [
    ...items,
    ...files.map((brought, n): Sending => {
      const most = mostFor(brought.file.name, limits)
      if (here.has(n)) return { ...brought, key: next++, state: 'here', sent: brought.file.size }
      if (brought.file.size > most)
        return { ...brought, key: next++, state: 'refused', sent: 0, reason: w.intake.tooLarge(bytes(most)) }
      const url = open.get(`${brought.path}/${brought.file.name}/${brought.file.size}`)
      return { ...brought, key: next++, state: 'queued', sent: 0, ...(url && { url }) }
    }),
  ]
  publish()
  pump()
}

/** Stops sending for now; what is on the server stays there. */
export function pause() {
  paused = true
  for (const [key, tus] of running) {
    void tus.abort()
    change(key, { state: 'queued', unsure: true })
  }
  running.clear()
  pace.reset()
  publish()
}

export async function goOn() {
  // What was stopped on its last bytes may be there all the same.
  const unsure = items.filter((i) => i.unsure && i.state === 'queued')
  if (intake && unsure.length > 0) {
    const known = await whatIsHere(intake, unsure).catch(() => null)
    for (const n of known?.here ?? []) Object.assign(unsure[n] ?? {}, { state: 'here' })
    for (const item of unsure) item.unsure = false
  }
  paused = false
  pace.reset()
  for (const item of items) if (item.state === 'broke') item.state = 'queued'
  publish()
  pump()
}

/** Asks which of these files are there already, and which stopped where. */
function whatIsHere(into: string, files: readonly Brought[]) {
  return body(
    api.POST('/api/intakes/{intake}/here', {
      params: { path: { intake: into } },
      body: { files: files.map((f) => ({ fileName: f.file.name, path: f.path, bytes: f.file.size })) },
    }),
    w.errors.away,
  )
}

/** Gives up what has not arrived yet; what has arrived stays. */
export function cancel() {
  for (const tus of running.values()) void tus.abort(true)
  running.clear()
  items = items.filter((i) => i.state === 'here' || i.state === 'refused')
  paused = false
  publish()
  localStorage.removeItem(kept)
}

function change(key: number, to: Partial<Sending>) {
  const item = items.find((i) => i.key === key)
  if (item) Object.assign(item, to)
  publish()
}

function pump() {
  if (paused || !intake) return
  while (running.size < atOnce) {
    const item = items.find((i) => i.state === 'queued')
    if (!item) return
    item.state = 'sending'
    running.set(item.key, begin(item, intake))
  }
  publish()
}

function begin(item: Sending, into: string): Tus {
  const end = (to: Partial<Sending>) => {
    if (!running.delete(item.key)) return
    change(item.key, to)
    pump()
  }
  const tus: Tus = new Tus(item.file, {
    endpoint: '/api/uploads',
    ...(item.url && { uploadUrl: item.url }),
    metadata: { filename: item.file.name, path: item.path, intake: into },
    headers: { 'X-Jovitar-Forgery': forgeryToken() },
    uploadDataDuringCreation: item.file.size <= inOne,
    // Where an upload stands is asked of the server, not of this browser.
    storeFingerprintForResuming: false,
    retryDelays: [0, 500, 1500, 3000, 5000, 10_000, 20_000],
    onShouldRetry: (problem) => {
      const status = problem instanceof DetailedError ? (problem.originalResponse?.getStatus() ?? 0) : 0
      return status === 0 || status === 409 || status === 423 || status === 460 || status >= 500
    },
    onUploadUrlAvailable: () => {
      if (tus.url) item.url = tus.url
    },
    onProgress: (sent) => {
      item.sent = sent
      pace.note(item.key, sent)
      publish()
    },
    onSuccess: () => {
      pace.note(item.key, item.file.size)
      end({ state: 'here', sent: item.file.size })
    },
    onError: (problem) => {
      const refused = refusal(problem)
      end(refused ? { state: 'refused', reason: refused } : { state: 'broke', reason: w.intake.brokeReason })
      if (!refused) again()
    },
  })
  tus.start()
  return tus
}

/** What the server says for good, or null when it may be worth trying again. */
function refusal(problem: unknown): string | null {
  const answer = problem instanceof DetailedError ? problem.originalResponse : undefined
  const status = answer?.getStatus()
  // Too large; or the intake is gone, or was taken back meanwhile.
  if (!answer || (status !== 413 && status !== 404)) return null
  try {
    const said: unknown = JSON.parse(answer.getBody())
    return typeof said === 'object' && said !== null && 'title' in said ? String(said.title) : null
  } catch {
    return null
  }
}

/** After a longer break of the line it is tried again by itself, every quarter of a minute and as soon as the line is back. */
function again() {
  clearTimeout(waiting)
  waiting = window.setTimeout(() => {
    if (paused) return
    for (const item of items) if (item.state === 'broke') item.state = 'queued'
    pump()
  }, 15_000)
}

window.addEventListener('online', () => !paused && void goOn())
window.addEventListener('beforeunload', (e) => {
  if (isSending()) e.preventDefault()
})
