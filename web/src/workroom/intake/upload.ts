import { useSyncExternalStore } from 'react'
import { type Api, forgeryToken, problemOf } from '../../api/client'
import { w } from '../../words'
import { bytes } from '../shell/format'

/** One file on its way in. */
export type Upload = {
  key: number
  file: File
  state: 'queued' | 'sending' | 'here' | 'broke' | 'refused'
  sent: number
  reason?: string
  result?: Api['IntakeFile']
}

const atOnce = 4
const listeners = new Set<() => void>()
let uploads: readonly Upload[] = []
let intake: string | null = null
let running = 0
let next = 1
let told = 0

function publish() {
  // Progress comes in floods; a redraw for each frame of the screen is enough.
  if (told) return
  told = requestAnimationFrame(() => {
    told = 0
    for (const listener of listeners) listener()
  })
}

function patch(key: number, change: Partial<Upload>) {
  uploads = uploads.map((u) => (u.key === key ? { ...u, ...change } : u))
  publish()
}

/** The files of this sitting. They go on being sent while one walks through other stations. */
export function useUploads() {
  const all = useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => uploads,
  )
  return { uploads: all, intake }
}

/** Begins to send files into an intake, four at a time; what is larger than the site takes is not sent at all. */
export function send(files: readonly File[], into: string, most: number) {
  if (into !== intake && !uploads.some((u) => u.state === 'queued' || u.state === 'sending')) uploads = []
  intake = into
  uploads = [
    ...uploads,
    ...files.map(
      (file): Upload =>
        file.size > most
          ? { key: next++, file, state: 'refused', sent: 0, reason: w.intake.tooLarge(bytes(most)) }
          : { key: next++, file, state: 'queued', sent: 0 },
    ),
  ]
  publish()
  pump()
}

/** Sends again what a broken line kept from arriving. */
export function sendAgain(key: number) {
  patch(key, { state: 'queued', sent: 0 })
  pump()
}

function pump() {
  while (running < atOnce) {
    const upload = uploads.find((u) => u.state === 'queued')
    if (!upload || !intake) return
    running++
    uploads = uploads.map((u) => (u.key === upload.key ? { ...u, state: 'sending' } : u))
    void sendOne(upload, intake).then((change) => {
      running--
      patch(upload.key, change)
      pump()
    })
  }
}

/** The browser's fetch cannot tell how much was sent; XMLHttpRequest can. */
function sendOne(upload: Upload, into: string): Promise<Partial<Upload>> {
  return new Promise((resolve) => {
    const request = new XMLHttpRequest()
    request.open('POST', `/api/intakes/${into}/files?name=${encodeURIComponent(upload.file.name)}`)
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    request.setRequestHeader('X-Jovitar-Forgery', forgeryToken())
    request.upload.onprogress = (e) => patch(upload.key, { sent: e.loaded })
    request.onerror = () => resolve({ state: 'broke', reason: w.intake.brokeReason })
    request.onload = () => {
      let answer: unknown
      try {
        answer = JSON.parse(request.responseText)
      } catch {
        answer = null
      }
      if (request.status === 200) {
        const result = answer as Api['IntakeFile']
        resolve({
          state: result.outcome === 'refused' ? 'refused' : 'here',
          sent: upload.file.size,
          result,
          ...(result.reason && { reason: result.reason }),
        })
      } else
        resolve({ state: 'broke', reason: problemOf(request.status, answer, w.intake.brokeReason).message })
    }
    request.send(upload.file)
  })
}

window.addEventListener('beforeunload', (e) => {
  if (uploads.some((u) => u.state === 'queued' || u.state === 'sending')) e.preventDefault()
})
