import type { ViewerDialog } from './viewerDialog'
import type { Walk } from './walk'

/**
 * Opens photos in the viewer instead of on their own pages. The viewer itself is fetched when the page has settled, or at the first
 * press, once it is known who keeps marks.
 */
export function enhanceViewer(walks: readonly Walk[], marking: Promise<void>) {
  let island: Promise<ViewerDialog> | null = null
  const load = () => {
    island ??= marking.then(() => import('./viewerDialog')).then((m) => new m.ViewerDialog(walks))
    return island
  }
  const idle = window.requestIdleCallback ?? ((f: () => void) => window.setTimeout(f, 600))
  window.addEventListener('load', () => idle(() => void load()))
  for (const walk of walks)
    walk.element.addEventListener('click', (e) => {
      const link = e.target instanceof Element ? e.target.closest<HTMLAnchorElement>('a[data-id]') : null
      if (
        !link ||
        link.dataset.own ||
        e.defaultPrevented ||
        e.metaKey ||
        e.ctrlKey ||
        e.shiftKey ||
        e.button !== 0
      )
        return
      e.preventDefault()
      void load().then(
        (viewer) => viewer.open(walk, Number(link.dataset.place)),
        () => location.assign(link.href),
      )
    })
}
