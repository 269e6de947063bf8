import { w } from '../words/site'
import { copyButton } from './copying'
import { button, make } from './dom'
import type { Frame } from './frames'

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
  /** Where it is bought; nothing where it is not sold. */
  buy: string | undefined
  /** What visitors say about it, at its own page; nothing where they say nothing. */
  talk: Frame['talk']
  href: string
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
  private readonly copied = copyButton(() => location.href)
  private readonly save = make('a', { textContent: w.save, download: '' })
  private readonly buy = make('a', { textContent: w.buy })
  private readonly talk = make('a', {
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

  constructor({ onPlay, onLarger, onStep, onClose, mark }: Verbs) {
    this.play = button(w.play, onPlay)
    this.larger = button(w.larger, onLarger)
    this.previous = button('←', () => onStep(-1), { ariaLabel: w.previous })
    this.next = button('→', () => onStep(1), { ariaLabel: w.next })
    const verbs = [...(mark ? [mark] : []), this.play, this.larger, this.copied]
    this.verbs = make('span', { className: 'viewer-verbs' }, ...verbs)
    const close = button(w.close, onClose, { className: 'viewer-close' })
    const steps = [this.count, this.verbs, this.previous, this.next, close]
    this.element = make('div', { className: 'viewer-steps' }, ...steps)
  }

  show({ place, of, plays, larger, save, buy, talk, href }: Steps) {
    const last = of - 1
    this.count.textContent = w.of(place + 1, of)
    this.play.textContent = plays ? w.stop : w.play
    this.play.hidden = last <= 0
    this.play.disabled = this.next.disabled = place >= last
    this.previous.disabled = place <= 0
    this.larger.textContent = larger ? w.whole : w.larger
    if (buy) this.verbs.append(Object.assign(this.buy, { href: buy }))
    else this.buy.remove()
    if (save) this.verbs.append(Object.assign(this.save, { href: save }))
    else this.save.remove()
    this.talk.href = `${href}#talk`
    this.talk.textContent = talk === 'ratings' ? w.rateIt : w.comments
    if (talk) this.verbs.append(this.talk)
    else this.talk.remove()
  }
}
