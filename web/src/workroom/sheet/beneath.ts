import { useSyncExternalStore } from 'react'
import type { Api } from '../../api/client'
import { w } from '../../words'
import { takenAt } from '../shell/format'

export const beneaths = ['title', 'name', 'taken', 'decision', 'nothing'] as const
export type Beneath = (typeof beneaths)[number]

const key = 'jovitar-beneath'
const listeners = new Set<() => void>()
let chosen: Beneath = beneaths.find((b) => b === localStorage.getItem(key)) ?? 'title'

/** What stands beneath a frame; kept by the browser, for it belongs to the screen. */
export function useBeneath() {
  const beneath = useSyncExternalStore(
    (listener) => {
      listeners.add(listener)
      return () => listeners.delete(listener)
    },
    () => chosen,
  )
  function choose(next: Beneath) {
    chosen = next
    localStorage.setItem(key, next)
    for (const listener of listeners) listener()
  }
  return { beneath, choose }
}

/** The words beneath a frame: never a file name where a title exists, unless that is what was asked for. */
export function beneathWords(photo: Api['SheetPhoto'], beneath: Beneath) {
  if (beneath === 'nothing') return ''
  if (beneath === 'taken') return photo.taken ? takenAt(photo.taken) : w.narrowing.onlyNone.taken
  if (beneath === 'name') return photo.fileName
  return photo.title || photo.fileName
}

/** Decision and rating in words; a photo left out says so whatever stands beneath. */
export function standing(photo: Api['SheetPhoto'], beneath: Beneath) {
  if (photo.decision === 'leave_out') return w.sheet.decided.leave_out
  if (beneath !== 'decision') return ''
  return [w.sheet.decided[photo.decision], photo.rating > 0 && String(photo.rating)].filter(Boolean).join(' ')
}
