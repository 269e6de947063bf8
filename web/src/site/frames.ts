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
  link.href = frame.href
  link.removeAttribute('id')
  const data = link.dataset
  data.place = String(frame.place)
  if (data.id === frame.id) return link
  Object.assign(data, { id: frame.id, w: frame.width, h: frame.height, title: frame.title })
  Object.assign(data, { caption: frame.caption, credit: frame.credit })
  const picture = link.querySelector('img')
  if (!picture) return link
  picture.className = frame.focus ?? ''
  picture.alt = frame.alt
  picture.width = frame.width
  picture.height = frame.height
  picture.srcset = frame.sources
  picture.src = frame.source
  link
    .querySelector('.frame-words')
    ?.replaceChildren(
      ...(frame.title ? [wordsIn('strong', frame.title)] : []),
      ...(frame.caption ? [wordsIn('span', frame.caption)] : []),
    )
  return link
}

function wordsIn(element: 'strong' | 'span', words: string) {
  const made = document.createElement(element)
  made.textContent = words
  return made
}

/** Reads a photo that came with the page. */
export function read(link: HTMLAnchorElement, place: number): Frame {
  const { id = '', w, h, title = '', caption = '', credit = '' } = link.dataset
  const picture = link.querySelector('img')
  return {
    place,
    id,
    href: link.href,
    source: picture?.src ?? '',
    sources: picture?.srcset ?? '',
    width: Number(w),
    height: Number(h),
    title,
    caption,
    alt: picture?.alt ?? '',
    credit,
    focus: picture?.className ?? null,
  }
}
