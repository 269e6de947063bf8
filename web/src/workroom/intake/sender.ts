import { DetailedError, Upload as Tus } from 'tus-js-client'
import { forgeryToken } from '../../api/client'
import { w } from '../../words'
import { owner, type Sending } from './queueState'

const atOnce = 4
/** A file up to this size goes with its first request; a larger one is announced first, so that it can go on after a break. */
const inOne = 1 << 20
const running = new Map<number, Tus>()
let waiting = 0

/** Sends what is queued, a few files at once. */
export function pump() {
  const into = owner.intake
  if (owner.paused || !into) return
  while (running.size < atOnce) {
    const item = owner.nextQueued()
    if (!item) return
    owner.change(item.key, { state: 'sending' })
    running.set(item.key, begin(item, into))
  }
}

/** Stops what is being sent; the server keeps what has come of it. */
export function halt() {
  for (const [key, tus] of running) {
    void tus.abort()
    owner.change(key, { state: 'queued', unsure: true })
  }
  running.clear()
}

/** Stops what is being sent and has the server forget it. */
export function giveUp() {
  for (const tus of running.values()) void tus.abort(true)
  running.clear()
}

function begin(item: Sending, into: string): Tus {
  const end = (to: Partial<Sending>) => {
    if (!running.delete(item.key)) return
    owner.change(item.key, to)
    pump()
  }
  const tus: Tus = new Tus(item.file, {
    endpoint: '/api/uploads',
    ...(item.url && { uploadUrl: item.url }),
    metadata: {
      filename: item.file.name,
      path: item.path,
      intake: into,
      changed: String(item.file.lastModified),
    },
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
      if (tus.url) owner.change(item.key, { url: tus.url })
    },
    onProgress: (sent) => {
      owner.pace.note(item.key, sent)
      owner.change(item.key, { sent })
    },
    onSuccess: () => {
      owner.pace.note(item.key, item.file.size)
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

/** After a longer break of the line it is tried again by itself, every quarter of a minute. */
function again() {
  clearTimeout(waiting)
  waiting = window.setTimeout(() => {
    if (owner.paused) return
    owner.requeueBroken()
    pump()
  }, 15_000)
}
