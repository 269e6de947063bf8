import type { Api } from '../api/client'
import { w } from '../words/site'
import { showMark } from './marks'

export type Frame = Omit<Api['SiteFrame'], 'box'>

/** Makes the link of a photo. */
export function make() {
  const link = document.createElement('a')
  link.className = 'frame'
  const picture = document.createElement('img')
  picture.decoding = 'async'
  picture.loading = 'lazy'
  link.append(picture)
  return link
}

/**
 * Gives a link a photo, or the same one at another place.
 * @param words The places at it in which words stand, each with its lines.
 */
export function dress(link: HTMLAnchorElement, frame: Frame, words: readonly string[]) {
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
  if (frame.talk) data.talk = frame.talk
  if (frame.kept) data.kept = ''
  const picture = link.querySelector('img')
  if (!picture) return link
  picture.className = frame.focus ?? ''
  picture.alt = frame.alt
  picture.width = frame.width
  picture.height = frame.height
  picture.srcset = frame.sources
  picture.src = frame.source
  const said = words.flatMap((place) => wordsAt(place, frame))
  picture.after(...signOf(press), ...said)
  // Where a press does nothing the keyboard comes to the words all the same.
  if (!leads && said.length > 0) link.tabIndex = 0
  if (said.some((place) => place.matches('.back'))) link.setAttribute('aria-description', w.turns)
  showMark(link)
  return link
}

/** What says before what a press on a photo does: a drawing, and words for those who cannot see it. */
function signOf({ sign, says }: Frame['press']) {
  const made: Element[] = []
  if (says) {
    made.push(span('unseen says', says))
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

/** The words of a photo at a place such as "over12": nothing where none of those lines says anything. */
function wordsAt(place: string, { lines, alt }: Frame) {
  const said = lines.flatMap((line, i) =>
    line && place.includes(String(i + 1)) ? [span(i === 0 ? 'one' : 'two', line)] : [],
  )
  if (said.length === 0) return []
  const made = span(`frame-words ${place.replace(/\d/g, '')}`, '')
  // Who cannot see it is read those words anyway.
  if (lines.every((line) => alt.includes(line))) made.setAttribute('aria-hidden', 'true')
  made.append(...said)
  return [made]
}

function span(name: string, words: string) {
  const made = document.createElement('span')
  made.className = name
  made.textContent = words
  return made
}

/** Reads a photo that came with the page. */
export function read(link: HTMLAnchorElement, place: number): Frame {
  const { id = '', own, w, h, talk = null, title = '', caption = '', facts = '', credit = '' } = link.dataset
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
    lines: ['.one', '.two'].map((line) => link.querySelector(line)?.textContent ?? ''),
    press: {
      href: own ? link.getAttribute('href') : null,
      sign: link.querySelector('use')?.getAttribute('href')?.slice(1) ?? null,
      says: link.querySelector('.says')?.textContent ?? '',
      opens: !own,
    },
    talk,
    kept: link.dataset.kept !== undefined,
    focus: picture?.className ?? null,
  }
}
