import { useSyncExternalStore } from 'react'

/** So many photos fit in one hand: the server says how many, when one begins. */
let most = 0

export function boundHand(photos: number) {
  most = photos
}

const key = 'jovitar-in-hand'
const listeners = new Set<() => void>()
let held: readonly string[] = read()
let lookup = new Set(held)

function read(): readonly string[] {
  try {
    const kept: unknown = JSON.parse(sessionStorage.getItem(key) ?? '[]')
    return Array.isArray(kept) ? kept.filter((id): id is string => typeof id === 'string') : []
  } catch {
    return []
  }
}

function hold(ids: readonly string[]) {
  held = ids
  lookup = new Set(ids)
  sessionStorage.setItem(key, JSON.stringify(ids))
  for (const listener of listeners) listener()
}

/** What can be done with the photos in hand. They stay while one walks from station to station, and over a reload. */
export const hand = {
  get most() {
    return most
  },
  take(ids: readonly string[]): number {
    const next = [...held, ...ids.filter((id) => !lookup.has(id))]
    hold(next.slice(0, most))
    return Math.max(0, next.length - most)
  },
  letGo(ids: readonly string[]) {
    const gone = new Set(ids)
    hold(held.filter((id) => !gone.has(id)))
  },
  toggle(id: string) {
    if (lookup.has(id)) hand.letGo([id])
    else hand.take([id])
  },
  clear() {
    hold([])
  },
  set(ids: readonly string[]) {
    hold(ids)
  },
}

function subscribe(listener: () => void) {
  listeners.add(listener)
  return () => listeners.delete(listener)
}

/** The photos in hand, in the order they were taken up, and a quick way to ask for one. */
export function useHand() {
  const ids = useSyncExternalStore(subscribe, () => held)
  return { ids, has: (id: string) => lookup.has(id) }
}
