import type { Api } from '../api/client'
import { w } from '../words/site'

export type Sent = Api['SentContribution']
export type SentPhoto = Api['SentPhoto']

/** How the server took something: a sentence where it did not, by field where it is about one. */
export type Taken = { done: boolean; sentence: string; fields: Record<string, string> }

/** Why a photo did not come; refused, it would not the next time either. */
type NotTaken = { sentence: string; isRefused: boolean }

/** One who did not get through tries so often, with pauses between, milliseconds. */
const pauses = [1000, 4000, 10_000]

const wait = (time: number) => new Promise((done) => setTimeout(done, time))

/** What the page on which photos are put together asks of the server. */
export class SentServer {
  constructor(private readonly address: string) {}

  picture = (photo: string, width: number) => `${this.address}/photos/${photo}/${width}.webp`

  async read(): Promise<Sent | null> {
    const answer = await fetch(`${this.address}/state`).catch(() => null)
    return answer?.ok ? answer.json() : null
  }

  async do(path: string, method: string, body?: object): Promise<Taken> {
    const answer = await fetch(this.address + path, {
      method,
      ...(body && { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    }).catch(() => null)
    if (answer?.ok) return { done: true, sentence: '', fields: {} }
    const problem: { title?: string; fields?: Record<string, string> } | null =
      (await answer?.json().catch(() => null)) ?? null
    return { done: false, sentence: problem?.title ?? w.markFailed, fields: problem?.fields ?? {} }
  }

  /** Sends one photo's bytes. What does not get through is tried again; what is refused is not. */
  async add(file: File, onProgress: (share: number) => void): Promise<SentPhoto | NotTaken> {
    for (const pause of [...pauses, null]) {
      const { status, body } = await this.post(file, onProgress)
      if (status === 200) return body as SentPhoto
      const isRefused = status >= 400 && status < 500 && status !== 429
      if (isRefused || pause === null) {
        return { sentence: (body as { title?: string } | null)?.title ?? w.notCome, isRefused }
      }
      await wait(pause)
    }
    return { sentence: w.notCome, isRefused: false }
  }

  /** Only this way of asking tells how far it has come. */
  private post(file: File, onProgress: (share: number) => void) {
    return new Promise<{ status: number; body: unknown }>((done) => {
      const asked = new XMLHttpRequest()
      asked.open('POST', `${this.address}/photos?name=${encodeURIComponent(file.name)}`)
      asked.setRequestHeader('Content-Type', 'application/octet-stream')
      asked.upload.onprogress = (e) => onProgress(e.loaded / Math.max(1, e.total))
      asked.onloadend = () => {
        let body: unknown = null
        try {
          body = JSON.parse(asked.responseText)
        } catch {
          // What lies between answers in its own way.
        }
        done({ status: asked.status, body })
      }
      asked.send(file)
    })
  }
}
