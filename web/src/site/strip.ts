import type { AlongWalk } from './along'
import { isStill, makeSteps, motionOf, moveByItself } from './moving'
import { onceAFrame } from './onceAFrame'

/** CSS pixels a second. */
const speeds = { still: 0, slow: 22, medium: 48, quick: 96 }
/** Photos are fetched while so many widths of the strip are still ahead. */
const ahead = 2

/** No gap between photos is wider, CSS pixels; as in Core. */
const widestGap = 80

/**
 * A strip is scrolled along by hand, by arrows and by itself. Where it begins again, photos that have gone out at the front follow on
 * the last, and before the first stand the last; one that is too short for that leaps from its end to its beginning.
 */
export function enhanceStrip(walk: AlongWalk) {
  const { element, run } = walk
  const motion = motionOf(walk)
  /** So many photos have gone from the front to the end since the order was last changed. */
  let gone = 0
  /** Where it stood when it was last at rest. */
  let rested = 0
  const end = () => element.scrollWidth - element.clientWidth
  const begins = () => motion.loops && walk.isWhole
  /** No photo is wider than the strip: when the first has gone out, the others fill it. */
  const turns = () => begins() && element.scrollWidth >= element.clientWidth * 2 + widestGap
  const leap = (left: number) => element.scrollTo({ left, behavior: 'instant' })

  const { line, back, on } = makeSteps(walk, (by) => {
    if (begins() && !turns() && (by > 0 ? element.scrollLeft >= end() - 1 : element.scrollLeft <= 1)) {
      leap(by > 0 ? 0 : end())
      return
    }
    if (by < 0) behind()
    element.scrollBy({ left: by * element.clientWidth * 0.8, behavior: isStill() ? 'instant' : 'smooth' })
  })
  if (motion.arrows || (motion.pace !== 'still' && !isStill())) run.append(line)

  /** Photos that have gone out at the front come again at the end, before that is reached. */
  function turnRound() {
    while (turns() && end() - element.scrollLeft < element.clientWidth) {
      const [first, next] = element.children
      if (!(first instanceof HTMLElement && next instanceof HTMLElement)) return
      if (element.scrollLeft < next.offsetLeft) return
      move(() => element.append(first), first, next)
      if (++gone >= walk.shown) shuffle()
    }
  }

  /** Where one goes back from the first photo, the last stand before it. */
  function behind() {
    while (turns() && element.scrollLeft < element.clientWidth) {
      const [first, last] = [element.firstElementChild, element.lastElementChild]
      if (!(first instanceof HTMLElement && last instanceof HTMLElement)) return
      const from = element.scrollLeft
      element.prepend(last)
      leap(from + first.offsetLeft - last.offsetLeft)
    }
    rested = element.scrollLeft
  }

  /** At rest again, there are photos to go on to the way one went. */
  function rest() {
    if (element.scrollLeft > rested) turnRound()
    else if (element.scrollLeft <= 1) behind()
    rested = element.scrollLeft
  }

  /** Moves a photo within the strip, which stays where it is seen to be. */
  function move(how: () => void, first: HTMLElement, next: HTMLElement) {
    const by = next.offsetLeft - first.offsetLeft
    const from = element.scrollLeft
    how()
    leap(from - by)
  }

  /** On the next round the photos come in another order: those still to come, and those gone out, each among themselves, so that nothing seen moves. */
  function shuffle() {
    gone = 0
    if (!motion.shuffles) return
    const photos = [...element.children].filter((c) => c instanceof HTMLElement)
    const out = photos.filter((c) => c.offsetLeft + c.offsetWidth < element.scrollLeft)
    const toCome = photos.filter((c) => c.offsetLeft > element.scrollLeft + element.clientWidth)
    const seen = photos[out.length] ?? null
    for (const [some, before] of [
      [out, seen],
      [toCome, null],
    ] as const)
      while (some.length > 0)
        for (const one of some.splice(Math.floor(Math.random() * some.length), 1))
          element.insertBefore(one, before)
  }

  function follow() {
    if (element.scrollLeft + element.clientWidth * (1 + ahead) > element.scrollWidth)
      void walk.fill().catch(() => {})
    if (back) back.disabled = !begins() && element.scrollLeft <= 1
    if (on) on.disabled = !motion.loops && walk.isWhole && element.scrollLeft >= end() - 1
    line.hidden = end() <= 1
  }

  element.addEventListener('scroll', onceAFrame(follow), { passive: true })
  element.addEventListener('scrollend', rest)
  new ResizeObserver(follow).observe(element)
  element.addEventListener('turned', follow)
  element.addEventListener('sought', (e) => {
    const link = e instanceof CustomEvent ? e.detail : null
    if (link instanceof HTMLElement)
      element.scrollTo({ left: link.offsetLeft - (element.clientWidth - link.offsetWidth) / 2 })
  })

  let part = 0
  moveByItself(walk, line, (since) => {
    part += (since / 1000) * speeds[motion.pace]
    const whole = Math.floor(part)
    if (whole === 0) return
    part -= whole
    if (begins() && !turns() && element.scrollLeft >= end() - 1) leap(0)
    else leap(element.scrollLeft + whole)
    turnRound()
    rested = element.scrollLeft
  })
}
