/** On a photo's own page the arrow keys follow its links, and Escape leads back. */
export function enhanceSingle() {
  if (!document.querySelector('[data-single]')) return
  const links: Record<string, string> = {
    ArrowLeft: 'a[rel=prev]',
    ArrowRight: 'a[rel=next]',
    Escape: 'a[data-back]',
  }
  window.addEventListener('keydown', (e) => {
    if (e.metaKey || e.ctrlKey || e.altKey) return
    const link = document.querySelector<HTMLAnchorElement>(links[e.key] ?? 'none')
    if (link) location.assign(link.href)
  })
}
