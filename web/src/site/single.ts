import { isAlone } from './dom'

/** On a photo's own page the arrow keys follow its links, and Escape leads back. */
export function enhanceSingle() {
  if (!document.querySelector('[data-single]')) return
  // Opened out of the viewer, where nothing was scrolled to: the browser would go back there while it loads.
  if (history.scrollRestoration === 'manual') {
    document.getElementById(location.hash.slice(1))?.scrollIntoView()
    window.addEventListener('pagehide', () => {
      history.scrollRestoration = 'auto'
    })
  }
  const links: Record<string, string> = {
    ArrowLeft: 'a[rel=prev]',
    ArrowRight: 'a[rel=next]',
    Escape: 'a[data-back]',
  }
  window.addEventListener('keydown', (e) => {
    if (!isAlone(e)) return
    // Where devices differ there is a link for each; the other ones are not seen.
    const all = document.querySelectorAll<HTMLAnchorElement>(links[e.key] ?? 'none')
    const link = [...all].find((each) => each.getClientRects().length > 0)
    if (link) location.assign(link.href)
  })
}
