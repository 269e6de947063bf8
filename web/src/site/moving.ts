import { w } from '../words/site'
import type { AlongWalk } from './along'

export const isStill = () => matchMedia('(prefers-reduced-motion: reduce)').matches

/** What is set of how a strip or slides move. */
export function motionOf(walk: AlongWalk) {
  const { pace = 'still', arrows, loops, shuffles } = walk.run.dataset
  return {
    pace: pace as 'still' | 'slow' | 'medium' | 'quick',
    arrows: arrows !== undefined,
    loops: loops !== undefined,
    shuffles: shuffles !== undefined,
  }
}

/** The line beneath: arrows, where one is, and what stops the photos where they move by themselves. */
export function makeSteps(walk: AlongWalk, onStep: (by: 1 | -1) => void) {
  const line = document.createElement('div')
  line.className = 'steps'
  const at = document.createElement('span')
  at.className = 'count'
  line.append(at)
  const arrow = (label: string, sign: string, by: 1 | -1) => {
    const button = press(label, sign, () => onStep(by))
    line.append(button)
    return button
  }
  const back = motionOf(walk).arrows ? arrow(w.previous, '←', -1) : null
  const on = motionOf(walk).arrows ? arrow(w.next, '→', 1) : null
  return { line, at, back, on }
}

function press(label: string, sign: string, onPress: () => void) {
  const button = document.createElement('button')
  button.type = 'button'
  button.textContent = sign
  button.setAttribute('aria-label', label)
  button.addEventListener('click', onPress)
  return button
}

/**
 * Lets photos move by themselves: while they are seen and nobody points at them, until somebody touches them, and never where less
 * motion is asked for. What moves can be stopped and let go on at a button (WCAG 2.2, 2.2.2).
 */
export function moveByItself(walk: AlongWalk, line: HTMLElement, onMove: (since: number) => void) {
  if (motionOf(walk).pace === 'still' || isStill()) return
  const { element, run } = walk
  let [stopped, seen, pointed, ticks, last] = [false, false, false, false, 0]
  const button = press(w.stop, '❚❚', () => say(!stopped))
  button.className = 'stop'
  line.prepend(button)
  function say(stop: boolean) {
    stopped = stop
    button.textContent = stop ? '▶' : '❚❚'
    button.setAttribute('aria-label', stop ? w.moveOn : w.stop)
    if (!stop) pointed = false
  }
  for (const touch of ['pointerdown', 'wheel', 'keydown', 'focusin'] as const)
    run.addEventListener(touch, (e) => e.target !== button && say(true), { passive: true })
  element.addEventListener('pointerenter', (e) => {
    pointed = e.pointerType === 'mouse'
  })
  element.addEventListener('pointerleave', () => {
    pointed = false
  })
  new IntersectionObserver(([entry]) => {
    seen = entry?.isIntersecting === true
    last = 0
    if (seen && !ticks) requestAnimationFrame(tick)
    ticks ||= seen
  }).observe(element)
  function tick(now: number) {
    const holds = stopped || pointed || document.querySelector('.viewer') !== null
    if (last > 0 && !holds) onMove(Math.min(now - last, 100))
    last = holds ? 0 : now
    ticks = seen
    if (ticks) requestAnimationFrame(tick)
  }
}
