import { copy } from '../kit/copy'
import { w } from '../words/site'
import { button, make } from './dom'

/** So long it is said that the link was copied, milliseconds. */
const told = 2000

/** What the steps show. */
export type Steps = {
  /** From 0. */
  place: number
  of: number
  /** They follow each other by themselves. */
  plays: boolean
  /** It is shown larger than whole. */
  larger: boolean
  /** Where it is saved from; nothing where it may not. */
  save: string | undefined
  /** Where it is talked of; nothing where it is not. */
  talk: string | undefined
}

/** What can be done in the viewer. */
type Verbs = {
  onPlay: () => void
  onLarger: () => void
  onStep: (by: number) => void
  onClose: () => void
  /** Marks the photo, where visitors may. */
  mark: HTMLElement | undefined
}

/** Which photo of how many it is, and what can be done with it. */
export class ViewerSteps {
  private readonly count = make('span', { className: 'count' })
  private readonly play: HTMLButtonElement
  private readonly larger: HTMLButtonElement
  private readonly copied: HTMLButtonElement
  private readonly save = make('a', { textContent: w.save, download: '' })
  private readonly talk = make('a', {
    textContent: w.comments,
    onclick: (e) => {
      if (e.metaKey || e.ctrlKey || e.shiftKey) return
      // The address is the photo's already: its own page is opened where it says what is said about it.
      e.preventDefault()
      history.replaceState(null, '', this.talk.href)
      location.reload()
    },
  })
  private readonly previous: HTMLButtonElement
  private readonly next: HTMLButtonElement
  private readonly verbs: HTMLElement
  readonly element: HTMLElement
  private over = 0

  constructor({ onPlay, onLarger, onStep, onClose, mark }: Verbs) {
    this.play = button(w.play, onPlay)
    this.larger = button(w.larger, onLarger)
    this.copied = button(w.copyLink, () => void copy(location.href).then((done) => done && this.tell()))
    this.previous = button('←', () => onStep(-1), { ariaLabel: w.previous })
    this.next = button('→', () => onStep(1), { ariaLabel: w.next })
    const verbs = [...(mark ? [mark] : []), this.play, this.larger, this.copied]
    this.verbs = make('span', { className: 'viewer-verbs' }, ...verbs)
    const close = button(w.close, onClose, { className: 'viewer-close' })
    const steps = [this.count, this.verbs, this.previous, this.next, close]
    this.element = make('div', { className: 'viewer-steps' }, ...steps)
  }

  private tell() {
    this.copied.textContent = w.copied
    clearTimeout(this.over)
    this.over = window.setTimeout(() => {
      this.copied.textContent = w.copyLink
    }, told)
  }

  show({ place, of, plays, larger, save, talk }: Steps) {
    const last = of - 1
    this.count.textContent = w.of(place + 1, of)
    this.play.textContent = plays ? w.stop : w.play
    this.play.hidden = last <= 0
    this.play.disabled = this.next.disabled = place >= last
    this.previous.disabled = place <= 0
    this.larger.textContent = larger ? w.whole : w.larger
    if (save) this.verbs.append(Object.assign(this.save, { href: save }))
    else this.save.remove()
    if (talk) this.verbs.append(Object.assign(this.talk, { href: talk }))
    else this.talk.remove()
  }
}
