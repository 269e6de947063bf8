import type { Api } from '../api/client'

export type Frame = Omit<Api['SiteFrame'], 'box'>

/** Makes the link of a photo; in a list its words stand beside it. */
export function make(withWords: boolean) {
  const link = document.createElement('a')
  link.className = 'frame'
  const picture = document.createElement('img')
  picture.decoding = 'async'
  picture.loading = 'lazy'
  link.append(picture)
  if (withWords) {
    const words = document.createElement('span')
    words.className = 'frame-words'
    link.append(words)
  }
  return link
}

/** Gives a link a photo, or the same one at another place. */
export function dress(link: HTMLAnchorElement, frame: Frame) {
  const { press } = frame
  const leads = press.opens ? frame.href : press.href
  if (leads) link.href = leads
  const data = link.dataset
  if (!press.opens) data.own = frame.href
  link.removeAttribute('id')
  data.place = String(frame.place)
  if (data.id === frame.id) return link
  Object.assign(data, { id: frame.id, w: frame.width, h: frame.height, title: frame.title })
  Object.assign(data, { caption: frame.caption, facts: frame.facts, credit: frame.credit })
  const picture = link.querySelector('img')
  if (!picture) return link
  picture.className = frame.focus ?? ''
  picture.alt = frame.alt
  picture.width = frame.width
  picture.height = frame.height
  picture.srcset = frame.sources
  picture.src = frame.source
  picture.after(...signOf(press))
  link
    .querySelector('.frame-words')
    ?.replaceChildren(
      ...(frame.title ? [wordsIn('strong', frame.title)] : []),
      ...(frame.caption ? [wordsIn('span', frame.caption)] : []),
    )
  return link
}

/** What says before what a press on a photo does: a drawing, and words for those who cannot see it. */
function signOf({ sign, says }: Frame['press']) {
  const made: Element[] = []
  if (says) {
    const words = wordsIn('span', says)
    words.className = 'unseen says'
    made.push(words)
  }
  const known = sign && document.getElementById(sign)
  if (known) {
    const drawing = document.createElementNS('http://www.w3.org/2000/svg', 'svg')
    const use = document.createElementNS('http://www.w3.org/2000/svg', 'use')
    drawing.setAttribute('class', 'sign')
    drawing.setAttribute('aria-hidden', 'true')
    use.setAttribute('href', `#${sign}`)
    drawing.append(use)
    made.push(drawing)
  }
  return made
}

function wordsIn(element: 'strong' | 'span', words: string) {
  const made = document.createElement(element)
  made.textContent = words
  return made
}

/** Reads a photo that came with the page. */
export function read(link: HTMLAnchorElement, place: number): Frame {
  const { id = '', own, w, h, title = '', caption = '', facts = '', credit = '' } = link.dataset
  const picture = link.querySelector('img')
  return {
    place,
    id,
    href: own ? new URL(own, location.href).href : link.href,
    source: picture?.src ?? '',
    sources: picture?.srcset ?? '',
    width: Number(w),
    height: Number(h),
    title,
    caption,
    alt: picture?.alt ?? '',
    facts,
    credit,
    press: {
      href: own ? link.getAttribute('href') : null,
      sign: link.querySelector('use')?.getAttribute('href')?.slice(1) ?? null,
      says: link.querySelector('.says')?.textContent ?? '',
      opens: !own,
    },
    focus: picture?.className ?? null,
  }
}
