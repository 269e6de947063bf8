import type { Api } from '../api/client'
import { w } from '../words/site'

type View = Api['SiteView']

/** The choice that an address holds. */
export function choiceOf(url: string) {
  return new URL(url, location.href).searchParams.get('show') ?? ''
}

/**
 * The filter without reload. The page stands as the server laid it out until a visitor chooses or the window changes; then the
 * server places the photos anew for the choice and the width, and the address keeps step.
 */
export function enhanceFilter(frames: HTMLElement) {
  const bar = document.querySelector<HTMLElement>('[data-filter]')
  const showing = document.querySelector<HTMLElement>('[data-showing]')
  const photos = [...frames.querySelectorAll<HTMLAnchorElement>('a[data-n]')]
  const address = frames.dataset.view ?? ''
  let choice = choiceOf(location.href)
  let asked = 0
  let width = frames.clientWidth

  async function ask(next: string): Promise<View | null> {
    const mine = ++asked
    const url = `${address}?show=${encodeURIComponent(next)}&width=${frames.clientWidth}`
    try {
      // The answer of every page, album, category and draft is the same; the page itself says where it is had.
      const answer = await fetch(url)
      if (!answer.ok) throw new Error(answer.statusText)
      const view: View = await answer.json()
      return mine === asked ? view : null
    } catch {
      if (mine === asked && showing) showing.textContent = w.failed
      return null
    }
  }

  function show(view: View) {
    const places = new Map(view.photos.map((n, i) => [n, view.boxes[i]]))
    frames.style.aspectRatio = 'auto'
    frames.style.height = `${view.height}px`
    for (const photo of photos) {
      const n = Number(photo.dataset.n)
      const box = places.get(n)
      photo.hidden = !box
      if (!box) continue
      Object.assign(photo.style, {
        left: `${box.x}px`,
        top: `${box.y}px`,
        width: `${box.width}px`,
        height: `${box.height}px`,
      })
      const img = photo.querySelector('img')
      if (img) img.sizes = `${Math.ceil(box.width)}px`
      photo.href = photo.href.split('?')[0] + (view.choice ? `?show=${view.choice}` : '')
    }
    if (showing) showing.textContent = w.showing(view.photos.length, view.total)
    bar?.querySelectorAll<HTMLAnchorElement>('a[data-key]').forEach((link) => {
      const button = view.buttons.find((b) => b.key === link.dataset.key)
      const on = button ? button.chosen : view.choice === ''
      if (on) link.setAttribute('aria-current', 'true')
      else link.removeAttribute('aria-current')
      if (!button) return
      link.href = button.link
      const count = link.querySelector('.count')
      if (count) count.textContent = String(button.count)
    })
    choice = view.choice
    width = frames.clientWidth
  }

  /** Shows a choice. Where photos came or went since the page was opened, it is opened anew; not while one photo is looked at. */
  async function turnTo(next: string, href: string) {
    const view = await ask(next)
    if (view && view.mark !== frames.dataset.mark) {
      if (document.querySelector('.viewer')) return null
      if (href === location.href) location.reload()
      else location.assign(href)
      return null
    }
    if (view) show(view)
    return view
  }

  bar?.addEventListener('click', (e) => {
    const link = e.target instanceof Element ? e.target.closest<HTMLAnchorElement>('a[data-key]') : null
    if (!link || e.metaKey || e.ctrlKey || e.shiftKey || e.button !== 0) return
    e.preventDefault()
    const href = link.href
    void turnTo(choiceOf(href), href).then((view) => {
      if (view) history.pushState(null, '', href)
    })
  })
  window.addEventListener('popstate', () => {
    if (!document.querySelector('.viewer') && choiceOf(location.href) !== choice)
      void turnTo(choiceOf(location.href), location.href)
  })

  let timer = 0
  new ResizeObserver(() => {
    if (frames.clientWidth === width) return
    clearTimeout(timer)
    timer = window.setTimeout(() => void turnTo(choice, location.href), 160)
  }).observe(frames)
}
