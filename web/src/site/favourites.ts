import { w } from '../words/site'
import { copyButton } from './copying'
import { button, isAlone, make } from './dom'
import {
  addressOf,
  areMarks,
  areOwn,
  canMark,
  isMarked,
  mark,
  marked,
  mostMarks,
  onMarks,
  photosAt,
  ringOn,
  showMark,
  turn,
} from './marks'

/** Programs for letters take links of so many characters. */
const longestMail = 1800

/** Photos that visitors mark: at the pictures, with a key, and as a page that can be sent. */
export function enhanceFavourites() {
  if (!areMarks()) return
  const frames = () => document.querySelectorAll<HTMLElement>('.frame[data-id]')
  const all = make('a', { className: 'marks' })
  const line = make('div', { className: 'marks-line', ariaLive: 'polite' })
  document.body.append(line)

  const press = (photo: string) => {
    if (!turn(photo) && areOwn())
      line.replaceChildren(make('span', { className: 'marks' }, w.marksFull(mostMarks)))
  }

  document.addEventListener('pointerover', (e) => {
    const link =
      e.pointerType === 'mouse' &&
      e.target instanceof Element &&
      e.target.closest<HTMLElement>('.frame[data-id]')
    if (link && canMark(link)) ringOn(link)
  })
  // Before the press opens the photo.
  document.addEventListener(
    'click',
    (e) => {
      const link =
        e.target instanceof Element &&
        e.target.matches('.ring') &&
        e.target.closest<HTMLElement>('.frame[data-id]')
      if (!link) return
      e.preventDefault()
      e.stopPropagation()
      press(link.dataset.id ?? '')
    },
    { capture: true },
  )
  document.addEventListener('keydown', (e) => {
    const link = document.activeElement
    if (!(link instanceof HTMLElement && link.matches('.frame') && canMark(link))) return
    if (!link.dataset.id || e.key !== 'm' || !isAlone(e)) return
    e.preventDefault()
    press(link.dataset.id)
  })

  const show = () => {
    for (const link of frames()) showMark(link)
    if (!areOwn()) return
    const n = marked().length
    const address = n > 0 ? addressOf(marked()) : ''
    all.replaceChildren(make('span', { className: 'ring-sign' }), w.marked(n))
    all.title = w.marksAre(n)
    all.href = address
    if (n > 0 && address !== location.pathname) line.replaceChildren(all)
    else line.replaceChildren()
  }
  onMarks(show)
  show()
  if (areOwn()) enhancePage()
  enhanceOwnPage()
}

/** A page of marked photos: whose marks they are, and what can be done with them. */
function enhancePage() {
  const heading = document.querySelector('main > .heading')
  // Of many only some stand in the page yet.
  const photos = /^\/favourites\/[^/]+$/.test(location.pathname) ? photosAt(location.pathname) : []
  if (!heading || photos.length === 0) return
  const said = make('p')
  const site =
    document.querySelector('meta[property="og:site_name"]')?.getAttribute('content') ?? document.title
  const link = location.origin + location.pathname
  const mail = `mailto:?subject=${encodeURIComponent(w.favouritesFrom(site))}&body=${encodeURIComponent(link)}`
  const sent = navigator.share
    ? [
        button(
          w.send,
          () => void navigator.share({ title: w.favouritesFrom(site), url: link }).catch(() => {}),
        ),
      ]
    : mail.length <= longestMail
      ? [make('a', { href: mail, textContent: w.mail })]
      : []
  let letGo = false
  const turn = button('', () => {
    const missing = photos.some((id) => !isMarked(id))
    letGo = !missing
    if (!mark(photos, missing)) said.textContent = w.marksFull(mostMarks)
  })
  const verbs = make(
    'p',
    { className: 'favourite-verbs' },
    copyButton(() => link),
    ...sent,
    turn,
  )
  heading.after(make('div', { className: 'block favourites' }, said, verbs))
  const show = () => {
    const missing = photos.some((id) => !isMarked(id))
    said.textContent = !missing ? w.ownMarks : letGo ? w.noMarks : w.othersMarks
    turn.textContent = missing ? (letGo ? w.markAgain : w.markAll) : w.unmarkAll
  }
  onMarks(show)
  show()
}

/** On a photo's own page it is marked beside its words. */
function enhanceOwnPage() {
  const single = document.querySelector<HTMLElement>('[data-single]')
  const photo = single?.dataset.single
  const steps = document.querySelector('.single-words .steps')
  if (!photo || !steps || !canMark(single)) return
  const verb = markVerb(() => photo)
  steps.before(make('p', {}, verb.element))
  window.addEventListener('keydown', (e) => verb.key(e))
}

/** The button that marks one photo, and its key. */
export function markVerb(photo: () => string | undefined) {
  const press = () => {
    const id = photo()
    if (id && !turn(id) && areOwn()) element.replaceChildren(w.marksFull(mostMarks))
  }
  const element = button('', press, { className: 'mark-verb' })
  element.setAttribute('aria-keyshortcuts', 'm')
  const show = () => {
    const is = isMarked(photo() ?? '')
    element.classList.toggle('marked', is)
    element.replaceChildren(make('span', { className: 'ring-sign' }), is ? w.unmark : w.mark)
  }
  onMarks(show)
  show()
  return {
    element,
    show,
    key: (e: KeyboardEvent) => {
      if (e.key === 'm' && isAlone(e)) press()
    },
  }
}
