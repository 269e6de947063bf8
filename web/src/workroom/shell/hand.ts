import { useSyncExternalStore } from 'react'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { tellProblem } from './news'

const away = w.errors.away

/** Photos in hand as they are known here: of more than can be listed, the first, and of others what was asked about. */
type Held = {
  count: number
  ids: readonly string[]
  lookup: ReadonlySet<string>
  asked: ReadonlyMap<string, boolean>
}

/** Counts changes of what is in hand, but not what is learned about it. */
let revision = 0

const nothing: Held = { count: 0, ids: [], lookup: new Set(), asked: new Map() }

/** So many photos are listed and named one by one: the server says how many, when one begins. */
let most = 0

export function boundHand(photos: number) {
  most = photos
}

const listeners = new Set<() => void>()
let held = nothing
/** What is on its way to the server, one after another; the hand is the server's, and the same on every machine. */
let sending: Promise<unknown> = Promise.resolve()
/** What waits for its turn. */
const unsent = new Set<() => void>()
let waiting = 0
/** Whether the server has been asked yet: who is not signed in has nothing in hand. */
let isKnown = false
/** Counts what was sent, so that no answer older than a press is taken for what is in hand now. */
let pressed = 0

function hold(next: Held) {
  if (next.ids !== held.ids || next.count !== held.count) revision++
  held = next
  for (const listener of listeners) listener()
}

const isWhole = () => held.ids.length === held.count

function become(ids: readonly string[]) {
  hold({ ids, count: ids.length, lookup: new Set(ids), asked: new Map() })
}

function read({ count, photos }: Api['HandHeld']) {
  isKnown = true
  // The same again is no change: what is open on it stays as it is.
  const same =
    count === held.count && photos.length === held.ids.length && photos.every((id, i) => id === held.ids[i])
  if (!same) hold({ count, ids: photos, lookup: new Set(photos), asked: new Map() })
}

function send<T>(work: () => Promise<T>): Promise<T | undefined> {
  waiting++
  pressed++
  let begin = () => {}
  const turn = new Promise<void>((resolve) => {
    begin = resolve
  })
  unsent.add(begin)
  void sending.then(begin)
  const sent = turn
    .then(() => {
      unsent.delete(begin)
      return work()
    })
    .then(
      (answer) => {
        waiting--
        return answer
      },
      (problem) => {
        waiting--
        tellProblem(problem)
        void hand.read()
        return undefined
      },
    )
  sending = sent
  return sent
}

/** So many photos are few enough for a request that outlives the page. */
const few = 1000

// Who leaves the page at once after a press has pressed all the same.
if (typeof window !== 'undefined')
  window.addEventListener('pagehide', () => {
    for (const begin of unsent) begin()
  })

/** What can be done with the photos in hand. They stay while one walks from station to station, and are one's own on every machine. */
export const hand = {
  /** So many are in hand. */
  get count() {
    return held.count
  },
  /** Reads what is in hand, and again where something was pressed meanwhile. */
  async read(): Promise<void> {
    await sending
    const before = pressed
    const answer = await body(api.GET('/api/hand'), away)
    if (pressed === before) read(answer)
    else await hand.read()
  },
  take(ids: readonly string[]) {
    const fresh = ids.filter((id) => !has(id))
    if (fresh.length === 0) return
    if (isWhole() && held.count + fresh.length <= most) become([...held.ids, ...fresh])
    else learn(fresh, true)
    void send(() =>
      body(api.POST('/api/hand', { body: { take: [...fresh] }, keepalive: fresh.length <= few }), away),
    )
  },
  letGo(ids: readonly string[]) {
    const gone = new Set(ids)
    if (isWhole()) become(held.ids.filter((id) => !gone.has(id)))
    else learn(ids.filter(has), false)
    void send(() =>
      body(api.POST('/api/hand', { body: { letGo: [...ids] }, keepalive: ids.length <= few }), away),
    )
  },
  toggle(id: string) {
    if (has(id)) hand.letGo([id])
    else hand.take([id])
  },
  clear() {
    if (held.count === 0) return
    become([])
    void send(() => body(api.DELETE('/api/hand', { keepalive: true }), away))
  },
  /** Holds these in this order. */
  set(ids: readonly string[]) {
    become(ids)
    void send(() => body(api.PUT('/api/hand', { body: { photos: [...ids] } }), away))
  },
  /** Takes up all photos of a sheet, however many, or turns them round: those in hand are let go, the others taken up. */
  async found(query: object, how: 'take' | 'turn') {
    const answer = await send(() =>
      body(api.POST('/api/hand/found', { params: { query }, body: { how } }), away),
    )
    if (answer && waiting === 0) read(answer)
    else if (answer) await hand.read()
  },
  /** What a verb reaches: the photos by name, or, where they are too many for that, all that is in hand. */
  async reach(): Promise<{ photos: string[] } | { inHand: true }> {
    if (isWhole()) return { photos: [...held.ids] }
    await sending
    return { inHand: true }
  },
  /** Asks which of some photos are in hand, where not all are known. */
  async ask(ids: readonly string[]) {
    const unknown = ids.filter((id) => !held.lookup.has(id) && !held.asked.has(id))
    if (isWhole() || unknown.length === 0) return
    const before = held
    const among = new Set(
      (await body(api.POST('/api/hand/among', { body: { photos: unknown } }), away)).photos,
    )
    if (held === before)
      hold({ ...held, asked: new Map([...held.asked, ...unknown.map((id) => [id, among.has(id)] as const)]) })
  },
}

/** Of more photos than are listed, some were taken up or let go. */
function learn(ids: readonly string[], taken: boolean) {
  if (ids.length === 0) return
  const gone = new Set(ids)
  const kept = taken ? held.ids : held.ids.filter((id) => !gone.has(id))
  hold({
    count: held.count + (taken ? ids.length : -ids.length),
    ids: kept,
    lookup: new Set(kept),
    asked: new Map([...held.asked, ...ids.map((id) => [id, taken] as const)]),
  })
}

const has = (id: string) => held.asked.get(id) ?? held.lookup.has(id)

function subscribe(listener: () => void) {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

// What was taken up on another machine, or in another tab, is seen when one comes back to this one.
if (typeof window !== 'undefined')
  window.addEventListener('focus', () => isKnown && void hand.read().catch(() => {}))

/** The photos in hand: how many, those that can be listed in the order they were taken up, and a quick way to ask for one. */
export function useHand() {
  const { ids, count } = useSyncExternalStore(subscribe, () => held)
  return { ids, count, whole: ids.length === count, has, revision }
}
