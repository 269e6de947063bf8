import { w } from '../words/site'
import type { View } from './walk'

/** What leads to more photos of a walk: a button beneath them, or the numbers of their pages. */
export class More {
  private readonly place: HTMLElement | null
  /** How many stood there when the server last told; undefined where they stand on pages. */
  private standing: number | undefined

  /** @param onChoose A visitor wants what stands at this address; `next` is the place of the first that comes to those there. */
  constructor(number: number, onChoose: (href: string, next: number | undefined, byKey: boolean) => void) {
    this.place = document.querySelector<HTMLElement>(`[data-more="${number}"]`)
    this.place?.addEventListener('click', (e) => {
      const link = e.target instanceof Element ? e.target.closest('a') : null
      if (!link || e.metaKey || e.ctrlKey || e.shiftKey || e.button !== 0) return
      e.preventDefault()
      const address = new URL(link.href)
      address.hash = ''
      onChoose(address.href, this.standing, e.detail === 0)
    })
  }

  tell({ further, shown }: View) {
    const { place } = this
    if (!place) return
    if (place.localName === 'nav') {
      place.hidden = further.pages.length === 0
      place.replaceChildren(...further.pages.map(pageLink))
      return
    }
    this.standing = further.standing
    place.hidden = further.moreLink === null
    const link = place.querySelector('a')
    const says = place.querySelector('span')
    if (link && further.moreLink) link.href = further.moreLink
    if (says) says.textContent = further.moreLink ? w.of(further.standing, shown) : ''
  }
}

function pageLink(page: View['further']['pages'][number]) {
  if (page.number === null) {
    const gap = document.createElement('span')
    gap.ariaHidden = 'true'
    gap.textContent = '…'
    return gap
  }
  const link = document.createElement('a')
  link.href = page.link
  if (page.present) link.setAttribute('aria-current', 'page')
  const word = document.createElement('span')
  word.className = 'unseen'
  word.textContent = `${w.page} `
  link.append(word, String(page.number))
  return link
}
