import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { hand } from '../shell/hand'
import { tellDone } from '../shell/news'
import { largest, type Size, shrunk, turnedCrop, turnedSize } from './geometry'

const away = w.errors.away

export type Correction = Api['CorrectionSaid']

/** What is said anew of a correction; what is not named stays. */
export type Change = Omit<Api['CorrectPhotos'], 'photos' | 'inHand'>

export const none = (size: Size): Correction => ({
  turns: 0,
  angle: 0,
  crop: largest(size, 0),
  isCropped: false,
  brightness: 0,
  contrast: 0,
  greys: null,
  focus: null,
})

/**
 * What a correction becomes, as far as it must be seen at once; the server has the last word.
 *
 * @param wanted The crop that was chosen: straightening makes it smaller only as long as it has to be.
 */
export function changed(
  before: Correction,
  change: Change,
  original: Size & Pick<Api['CorrectionPlate'], 'isPart'>,
  wanted = before.crop,
): Correction {
  let now: Correction = change.reset ? none(original) : { ...before }
  // Where a print lies on its scan is what it is, and is not taken back.
  if (change.reset && original.isPart) {
    const { turns, angle, crop, isCropped } = before
    now = { ...now, turns, angle, crop, isCropped }
  }
  for (let left = (((change.turn ?? 0) % 4) + 4) % 4; left > 0; left--)
    now = { ...now, turns: (now.turns + 1) % 4, crop: turnedCrop(now.crop) }
  if (typeof change.angle === 'number') now.angle = change.angle
  if (typeof change.brightness === 'number') now.brightness = change.brightness
  if (typeof change.contrast === 'number') now.contrast = change.contrast
  if (change.greys) now.greys = change.greys
  if (change.inColour) now.greys = null
  if (change.focus) now.focus = change.focus
  if (change.inMiddle) now.focus = null
  const turned = turnedSize(original, now.turns)
  if (change.shape === 'asShot') now.isCropped = false
  if (change.crop) {
    now.crop = change.crop
    now.isCropped = true
  } else if (!now.isCropped) now.crop = largest(turned, now.angle)
  else if (typeof change.angle === 'number') now.crop = shrunk(wanted, turned, now.angle)
  return now
}

/** What is said later on top of what was said before. */
function joined(before: Change, next: Change): Change {
  if (next.reset) return next
  const all = { ...before, ...next }
  if (before.turn && next.turn) all.turn = (before.turn + next.turn) % 4
  if (next.greys) delete all.inColour
  if (next.inColour) delete all.greys
  if (next.focus) delete all.inMiddle
  if (next.inMiddle) delete all.focus
  if (next.crop) delete all.shape
  if (next.shape) delete all.crop
  // A crop said before a turn was said of the picture as it stood then.
  if (before.crop && next.turn && !next.crop) {
    let crop = before.crop
    for (let left = ((next.turn % 4) + 4) % 4; left > 0; left--) crop = turnedCrop(crop)
    all.crop = crop
  }
  return all
}

const correctionOf = (photo: string) => ({
  queryKey: ['plate', photo, 'correction'],
  queryFn: () => body(api.GET('/api/photos/{photo}/correction', { params: { path: { photo } } }), away),
})

/** So long after the last change it is written. */
const settles = 500

/** What was said of a photo and is not written yet, and what the photo looks like with it. */
type Said = { photo: string; onAll: boolean; change: Change; shown: Correction }

/** The crop that was chosen on a photo, before straightening made it smaller. */
type Wanted = { photo: string; crop: Correction['crop'] }

/**
 * The correction of a photo, as it is with what is being changed. Changes are shown at once, and written when the hand rests for a
 * moment, when one goes on to another photo, and when one leaves.
 */
export function useCorrection(photo: string | undefined, onAll: boolean) {
  const client = useQueryClient()
  const plate = useQuery({ ...correctionOf(photo ?? ''), enabled: photo !== undefined })
  const [pending, setPending] = useState<Said | null>(null)
  const [sending, setSending] = useState<Said | null>(null)
  const unsent = useRef<Said | null>(null)
  const line = useRef<Promise<unknown>>(Promise.resolve())
  const wanted = useRef<Wanted | null>(null)
  const write = useAct(
    async (said: Said) => {
      const reach = said.onAll ? await hand.reach() : { photos: [said.photo] }
      const done = await body(
        api.POST('/api/corrections', { body: { ...reach, ...said.change }, keepalive: true }),
        away,
      )
      // What is shown goes over to what the server has, without the one before flashing up between.
      await client.fetchQuery({ ...correctionOf(said.photo), staleTime: 0 }).catch(() => undefined)
      return done
    },
    (done, said) => tellDone(w.correct.done(done.photos, said.change.reset === true), done),
  )
  const { mutateAsync } = write
  const flush = useCallback(() => {
    const said = unsent.current
    if (!said) return
    unsent.current = null
    setPending(null)
    setSending(said)
    // One after another; what cannot be written is told at the foot, and shown no longer.
    line.current = line.current
      .then(() => mutateAsync(said))
      .catch(() => undefined)
      .then(() => setSending((now) => (now === said ? null : now)))
  }, [mutateAsync])
  /** Writes what is said and not written yet, and waits for it. */
  const written = useCallback(() => {
    flush()
    return line.current
  }, [flush])
  useEffect(() => {
    if (!pending) return
    const timer = setTimeout(flush, settles)
    return () => clearTimeout(timer)
  }, [pending, flush])
  // Whoever goes on to another photo, or away, or closes the window, leaves nothing unsaid behind.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the going on that counts
  useEffect(() => flush, [photo, onAll])
  useEffect(() => {
    window.addEventListener('pagehide', flush)
    return () => window.removeEventListener('pagehide', flush)
  }, [flush])
  const data = plate.data
  const shown = data && [pending, sending].find((said) => said?.photo === data.photo)?.shown
  const correction = shown ?? data?.correction
  function say(change: Change) {
    if (!data || !correction) return
    const straightens = typeof change.angle === 'number' && correction.isCropped
    if (change.crop || change.shape || change.turn || change.reset) wanted.current = null
    if (straightens && wanted.current?.photo !== data.photo)
      wanted.current = { photo: data.photo, crop: correction.crop }
    const shown = changed(correction, change, data, straightens ? wanted.current?.crop : undefined)
    // What was cropped smaller here is what is kept; on all in hand each photo has its own room.
    const whole = straightens && !onAll ? { ...change, crop: shown.crop } : change
    const before = unsent.current
    const said: Said = {
      photo: data.photo,
      onAll,
      change: before?.photo === data.photo ? joined(before.change, whole) : whole,
      shown,
    }
    unsent.current = said
    setPending(said)
  }
  return {
    plate: data,
    error: plate.error,
    correction,
    say,
    written,
    isBusy: pending !== null || sending !== null,
  }
}
