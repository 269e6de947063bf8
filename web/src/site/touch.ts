import { deviceNow, saidOf } from './device'

/** How long photos take to enter, ms. */
const pace = 420
const enters: Record<string, Keyframe> = {
  fade: { opacity: 0 },
  rise: { opacity: 0, translate: '0 32px' },
  grow: { opacity: 0, scale: '0.94' },
}

const frameOf = (e: Event) => (e.target instanceof Element ? e.target.closest<HTMLElement>('.frame') : null)

/** What a touch does beyond what the style sheet says: the side that words come from, photos that turn round, and how photos enter. */
export function enhanceTouch(element: HTMLElement) {
  const { words, sided, enters: entrances } = element.dataset
  if (sided) element.addEventListener('pointerover', (e) => comeFrom(e, sided))
  if (words?.includes('back')) enhanceTurning(element)
  if (entrances && !matchMedia('(prefers-reduced-motion: reduce)').matches)
    enhanceEntrance(element, entrances)
}

/** Words come from the side of the photo that the pointer came in at. */
function comeFrom(e: PointerEvent, sided: string) {
  const frame = frameOf(e)
  const from = e.relatedTarget
  if (!frame || (from instanceof Node && frame.contains(from)) || !saidOf(deviceNow(), sided)) return
  const { left, right, top, bottom } = frame.getBoundingClientRect()
  const sides: [number, string, string][] = [
    [e.clientX - left, '-100%', '0'],
    [right - e.clientX, '100%', '0'],
    [e.clientY - top, '0', '-100%'],
    [bottom - e.clientY, '0', '100%'],
  ]
  const [, x, y] = sides.reduce((nearest, side) => (side[0] < nearest[0] ? side : nearest))
  frame.style.setProperty('--from-x', x)
  frame.style.setProperty('--from-y', y)
  // They stand there before they begin to come.
  frame.getBoundingClientRect()
}

/** The first press turns a photo with words on its back round; the next is a press as on any other. */
function enhanceTurning(element: HTMLElement) {
  const turnBack = () => {
    for (const turned of element.querySelectorAll('.turned')) turned.classList.remove('turned')
  }
  element.addEventListener('click', (e) => {
    const frame = frameOf(e)
    const back = frame?.querySelector('.back')
    const opens = frame?.matches('.turned') || e.metaKey || e.ctrlKey || e.shiftKey || e.button !== 0
    if (!frame || !back || opens || getComputedStyle(back).display === 'none') return
    e.preventDefault()
    turnBack()
    frame.classList.add('turned')
  })
  element.addEventListener('keydown', (e) => {
    if (e.key === 'Escape') turnBack()
  })
  element.addEventListener('focusout', turnBack)
}

/** Photos enter when they come into view. Those that stand there when the page is opened are there. */
function enhanceEntrance(element: HTMLElement, entrances: string) {
  const came = new WeakSet<Element>()
  const seen = new IntersectionObserver((changes) => {
    const from = enters[saidOf(deviceNow(), entrances)]
    for (const { target, isIntersecting } of changes) {
      const isNew = isIntersecting && !came.has(target)
      if (isIntersecting) {
        came.add(target)
        seen.unobserve(target)
      }
      if (isNew && from && scrollY > 0) target.animate([from, {}], { duration: pace, easing: 'ease-out' })
    }
  })
  const watch = (nodes: Iterable<Node>) => {
    for (const node of nodes)
      if (node instanceof Element && node.matches('.frame') && !came.has(node)) seen.observe(node)
  }
  watch(element.children)
  new MutationObserver((changes) => {
    for (const { addedNodes } of changes) watch(addedNodes)
  }).observe(element, { childList: true })
}
