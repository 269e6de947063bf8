/** A video is asked for once somebody presses play: then it stands where its still stood. Without scripts the link opens it. */
export function enhanceFilms() {
  for (const link of document.querySelectorAll<HTMLAnchorElement>('a[data-play]'))
    link.addEventListener('click', (e) => {
      if (e.ctrlKey || e.metaKey || e.shiftKey || e.button !== 0) return
      e.preventDefault()
      const shown = link.dataset.play === 'video' ? video(link) : frame(link)
      link.replaceWith(shown)
      shown.focus()
    })
}

function video(link: HTMLAnchorElement) {
  const shown = document.createElement('video')
  shown.controls = true
  shown.autoplay = true
  shown.src = link.href
  shown.setAttribute('aria-label', link.dataset.name ?? '')
  return shown
}

/** What stands in it may run its own scripts, but not reach the page about it. */
function frame(link: HTMLAnchorElement) {
  const shown = document.createElement('iframe')
  shown.title = link.dataset.name ?? ''
  shown.allow = 'fullscreen; autoplay'
  shown.setAttribute('sandbox', 'allow-scripts allow-same-origin allow-presentation')
  shown.src = link.href
  return shown
}
