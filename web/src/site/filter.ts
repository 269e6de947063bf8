import { w } from '../words/site'
import { Bar } from './bar'
import { More } from './more'
import { nextFrame, onceAFrame, rest } from './onceAFrame'
import { PlacedWalk } from './placed'
import type { View, Walk } from './walk'

/**
 * The filter without reload, and photos that follow as one scrolls. The page stands as the server laid it out until a visitor
 * chooses or the window changes; then the server places the photos anew, and the address keeps step.
 */
export function enhanceFilter(walk: Walk) {
  const frames = walk.element
  // Letters of one search are one step back, not one each.
  let typed = false
  const bar = new Bar(walk.number, (href, typing) => {
    void turnTo(walk.choiceIn(href), href).then((view) => {
      if (!view) return
      if (typing && typed) history.replaceState(null, '', view.link)
      else history.pushState(null, '', view.link)
      typed = typing
    })
  })
  const more = new More(walk.number, (href, next, byKey) => {
    void turnTo(walk.choiceIn(href), href).then((view) => {
      if (!view) return
      typed = false
      // More of the same is no step back; another page is.
      if (walk.by === 'button') history.replaceState(null, '', view.link)
      else {
        history.pushState(null, '', view.link)
        const block = frames.closest('.block') ?? frames
        if (block.getBoundingClientRect().top < 0) block.scrollIntoView({ block: 'start' })
      }
      if (byKey) walk.link(next ?? view.further.first)?.focus()
    })
  })
  const showing = document.querySelector<HTMLElement>(`[data-showing="${walk.number}"]`)
  let width = frames.clientWidth

  function tell(view: View) {
    const { first, standing, pages } = view.further
    if (showing)
      showing.textContent =
        pages.length > 0 ? w.part(first + 1, first + standing, view.shown) : w.showing(view.shown, view.total)
    bar.tell(view)
    more.tell(view)
  }

  /** Shows a choice. Where photos came or went since the page was opened, it is opened anew; not while one photo is looked at. */
  async function turnTo(next: string, href: string): Promise<View | null> {
    try {
      const view = await walk.turn(next)
      if (view && walk.isOlderThan(view)) {
        if (document.querySelector('.viewer')) return null
        if (href === location.href) location.reload()
        else location.assign(href)
        return null
      }
      if (view) {
        await rest()
        tell(view)
        void nextFrame()
          .then(() => {
            width = frames.clientWidth
            return rest()
          })
          .then(fill)
      }
      return view
    } catch {
      if (showing) showing.textContent = w.failed
      walk.standAsItCame()
      return null
    }
  }

  window.addEventListener('popstate', () => {
    typed = false
    bar.goTo(location.href)
    const choice = walk.choiceIn(location.href)
    if (!document.querySelector('.viewer') && choice !== walk.choice) void turnTo(choice, location.href)
  })

  const fill = () => walk.fill().catch(() => {})
  // A part of many photos that was opened by its address: the whole is placed, and the part sought out.
  const { from } = walk
  const isOnPages = walk.by === 'numbers'
  if (walk.isToBeDrawn && (from === 0 || isOnPages)) void turnTo(walk.choice, location.href)
  if (from > 0 && !isOnPages)
    void turnTo(walk.choice, location.href)
      .then(() => walk.near(from, 1))
      .then(() => walk.reach(from))
  let timer = 0
  const again = () => {
    clearTimeout(timer)
    timer = window.setTimeout(() => void turnTo(walk.choice, location.href), 160)
  }
  if (!(walk instanceof PlacedWalk)) {
    addEventListener('resize', () => walk.isOfAnotherDevice && again())
    return
  }

  walk.onTold = (view) => more.tell(view)
  walk.onSeek = (choice) =>
    turnTo(choice, location.href).then((view) => view && history.replaceState(history.state, '', view.link))
  new ResizeObserver(() => frames.clientWidth !== width && again()).observe(frames)
  if (from === 0 && !walk.isLong) return

  addEventListener(
    'scroll',
    onceAFrame(() => void fill()),
    { passive: true },
  )
  if (!walk.isToBeDrawn) void fill()
}
