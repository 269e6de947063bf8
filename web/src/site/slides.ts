import { w } from '../words/site'
import type { AlongWalk } from './along'
import { isStill, makeSteps, motionOf, moveByItself } from './moving'

/** Milliseconds that a slide stays. */
const stays = { still: 0, slow: 8000, medium: 5000, quick: 3000 }
/** Milliseconds until what went is gone; the style sheet takes as long. */
const going = 700
const swipe = 45

/** Slides show one photo at a time: they are leafed through by arrows, keys and a swipe, and by themselves. */
export function enhanceSlides(walk: AlongWalk) {
  const { element, run } = walk
  const motion = motionOf(walk)
  const slides = run.dataset.turn === 'slide'
  /** The places in the order they are shown; shuffled on every round where that is wished. */
  let order = [...Array(walk.shown).keys()]
  let at = 0
  let waited = 0
  /** Where it is scrolling to; a press that comes before it is there counts from that. */
  let goal: number | null = null

  const { line, at: count, back, on } = makeSteps(walk, (by) => void step(by))
  run.append(line)
  if (!slides) element.classList.add('stacked')

  function tell() {
    count.textContent = w.of(at + 1, walk.shown)
    // From the first one goes back to the last where that is there; fetching thousands for it would not be worth it.
    if (back) back.disabled = at === 0 && !(motion.loops && walk.isWhole)
    if (on) on.disabled = !motion.loops && at === walk.shown - 1
    line.hidden = walk.shown < 2
  }

  async function step(by: 1 | -1) {
    const next = at + by
    if (next < 0 || next >= walk.shown) {
      if (!motion.loops || (next < 0 && !walk.isWhole)) return
      if (motion.shuffles && next > 0 && walk.isWhole) anew()
    }
    await turnTo((next + walk.shown) % walk.shown)
  }

  /** The next round is in another order. */
  function anew() {
    order = shuffled(order)
    for (const place of order) element.append(walk.link(place) ?? '')
  }

  async function turnTo(next: number) {
    const place = order[next]
    if (place === undefined || !(await walk.bring(place))) return
    at = next
    waited = 0
    draw()
    void ahead()
  }

  /** What comes next is there before it is asked for. */
  async function ahead() {
    const after = order[at + 1]
    if (after !== undefined && !walk.link(after)) await walk.fill().catch(() => {})
    if (!slides) draw()
  }

  function draw() {
    const link = walk.link(order[at] ?? 0)
    tell()
    if (!link) return
    if (slides) {
      goal = at
      const far = Math.abs(link.offsetLeft - element.scrollLeft) > element.clientWidth * 1.5
      element.scrollTo({ left: link.offsetLeft, behavior: far || isStill() ? 'instant' : 'smooth' })
      return
    }
    const near = new Set([order[at - 1], order[at + 1]].map((p) => p !== undefined && walk.link(p)))
    for (const each of element.children) {
      if (!(each instanceof HTMLElement)) continue
      const was = each.classList.contains('on')
      each.classList.toggle('on', each === link)
      each.classList.toggle('near', each !== link && near.has(each as HTMLAnchorElement))
      if (was && each !== link) {
        each.classList.add('off')
        setTimeout(() => each.classList.remove('off'), going)
      }
    }
  }

  element.addEventListener('keydown', (e) => {
    if (e.key !== 'ArrowRight' && e.key !== 'ArrowLeft') return
    e.preventDefault()
    void step(e.key === 'ArrowRight' ? 1 : -1)
  })
  element.addEventListener('turned', () => {
    order = [...Array(walk.shown).keys()]
    at = 0
    tell()
    void turnTo(0)
  })
  element.addEventListener('sought', (e) => {
    const place = e instanceof CustomEvent ? Number(e.detail.dataset.place) : 0
    void turnTo(order.indexOf(place))
  })
  if (slides) {
    for (const touch of ['pointerdown', 'wheel'] as const)
      element.addEventListener(
        touch,
        () => {
          goal = null
        },
        { passive: true },
      )
    element.addEventListener('scrollend', () => {
      const here = Math.round(element.scrollLeft / element.clientWidth)
      if (goal !== null && here !== goal) {
        // The way there was cut short by the next press: it goes on.
        draw()
        return
      }
      goal = null
      at = Math.min(Math.max(here, 0), walk.shown - 1)
      tell()
      void ahead()
    })
  } else swiped(element, (by) => void step(by))
  moveByItself(walk, line, (since) => {
    waited += since
    if (waited < stays[motion.pace]) return
    waited = 0
    void step(1)
  })
  // A screen reader hears where one is when one has leafed, not while the slides leaf by themselves.
  if (motion.pace === 'still') count.setAttribute('role', 'status')
  draw()
  void ahead()
}

/** Tells of a finger drawn across; the press that ends it opens nothing. */
function swiped(element: HTMLElement, onSwipe: (by: 1 | -1) => void) {
  let from: number | null = null
  let drawn = false
  element.addEventListener('pointerdown', (e) => {
    from = e.pointerType === 'mouse' ? null : e.clientX
    drawn = false
  })
  element.addEventListener('pointerup', (e) => {
    if (from !== null && Math.abs(e.clientX - from) > swipe) {
      drawn = true
      onSwipe(e.clientX < from ? 1 : -1)
    }
    from = null
  })
  element.addEventListener(
    'click',
    (e) => {
      if (!drawn) return
      e.preventDefault()
      e.stopPropagation()
    },
    { capture: true },
  )
}

function shuffled(places: number[]) {
  const left = [...places]
  return places.map(() => left.splice(Math.floor(Math.random() * left.length), 1)[0] ?? 0)
}
