import { w } from '../words/site'
import { fromAddress, toAddress } from './bytes'
import { make } from './dom'
import { isEmbedded } from './embedded'

/** What it is kept under in the browser. */
const kept = 'favourites'

/** As many as an address can name; nothing where visitors mark none. */
export const mostMarks = Number(document.body.dataset.favourites ?? 0)

/** This browser keeps marks here. A draft is nobody's to mark, and what stands on another website keeps nothing. */
const keepsOwn = mostMarks > 0 && !location.pathname.startsWith('/preview/') && !isEmbedded()

const isId = /^[\da-f]{8}(-[\da-f]{4}){3}-[\da-f]{12}$/
let keeps = true
let marks = keepsOwn ? read() : []
const listeners: (() => void)[] = []

function read(): string[] {
  try {
    const said: unknown = JSON.parse(localStorage.getItem(kept) ?? '[]')
    const ids = Array.isArray(said) ? said.filter((id) => typeof id === 'string' && isId.test(id)) : []
    return [...new Set<string>(ids)].slice(0, mostMarks)
  } catch {
    // Nothing is kept here, or what is there is not ours.
    return []
  }
}

/** Whoever keeps marks in this browser's place: an album that asks for favourites, where only its own photos are marked. */
export type Keeper = {
  /** A photo is marked. */
  has: (photo: string) => boolean
  /** Marks a photo, or lets go of its mark. False where it may not be; it says why itself. */
  turn: (photo: string, on: boolean) => boolean
  /** It keeps the marks of photos that stand here. */
  takes: (place: Element) => boolean
}

let keeper: Keeper | null = null

/** From now on marks are kept by somebody else. */
export function keepElsewhere(other: Keeper) {
  keeper = other
}

/** Photos that stand in an element can be marked. */
export const canMark = (place: Element) => keeper?.takes(place) ?? keepsOwn
/** Something can be marked on this page. */
export const areMarks = () => keepsOwn || keeper !== null
/** Marks are this browser's own: they make a page that can be sent. */
export const areOwn = () => keepsOwn && !keeper

/** The photos that are marked, in the order of marking. */
export const marked = (): readonly string[] => marks
export const isMarked = (photo: string) => keeper?.has(photo) ?? marks.includes(photo)

/** Marks a photo, or lets go of its mark. False where more would be marked than may be. */
export function turn(photo: string): boolean {
  const on = !isMarked(photo)
  return keeper ? keeper.turn(photo, on) : mark([photo], on)
}

/** Called whenever a photo was marked, or is no longer, here or in another tab. */
export const onMarks = (listener: () => void) => listeners.push(listener)

/** Marks photos, or lets go of their marks. False where more are marked then than an address can name: then nothing is. */
export function mark(photos: readonly string[], on: boolean): boolean {
  // Another tab may have marked others meanwhile.
  const others = (keeps ? read() : marks).filter((id) => !photos.includes(id))
  const next = on ? [...others, ...photos] : others
  if (next.length > mostMarks) return false
  marks = next
  try {
    localStorage.setItem(kept, JSON.stringify(next))
  } catch {
    // A browser that keeps nothing: the marks hold as long as the page is open.
    keeps = false
  }
  tell()
  return true
}

/** Says that photos were marked, or are no longer. */
export function tell() {
  for (const listener of listeners) listener()
}

addEventListener('storage', (e) => {
  if (!areOwn() || (e.key !== kept && e.key !== null)) return
  marks = read()
  tell()
})

/** The digits of an id, as hyphens part them. */
const idShape = /(.{8})(.{4})(.{4})(.{4})/

/** The page of some photos: their ids, 16 bytes each; as Core reads it. */
export const addressOf = (photos: readonly string[]) =>
  `/favourites/${toAddress(
    photos.flatMap((id) =>
      (id.replaceAll('-', '').match(/../g) ?? []).map((hex) => Number.parseInt(hex, 16)),
    ),
  )}`

/** The photos that the address of such a page names. */
export function photosAt(address: string): string[] {
  const bytes = fromAddress(address.slice(address.lastIndexOf('/') + 1))
  const hex = bytes.map((byte) => byte.toString(16).padStart(2, '0')).join('')
  return (hex.match(/.{32}/g) ?? []).map((id) => id.replace(idShape, '$1-$2-$3-$4-'))
}

/** Rings the picture of a photo that is marked, and says so to those who cannot see it. */
export function showMark(link: HTMLElement) {
  if (!canMark(link)) return
  const is = isMarked(link.dataset.id ?? '')
  link.classList.toggle('marked', is)
  // Where somebody asks for marks, what makes one is seen, also by those who point with a finger.
  const words = (is || keeper ? ringOn(link) : link.querySelector('.ring'))?.firstElementChild
  if (words) words.textContent = is ? w.isMarked : ''
}

/** The ring of a picture; one that is not marked has one only while it is pointed at. */
export function ringOn(link: HTMLElement): HTMLElement {
  const there = link.querySelector<HTMLElement>('.ring')
  if (there) return there
  const ring = make('span', { className: 'ring' }, make('span', { className: 'unseen' }))
  link.append(ring)
  return ring
}
