import type { Api } from '../api/client'
import { w } from '../words/site'
import { button, make } from './dom'

type State = Api['ChoosingState']

/** How something was taken: a sentence where it was not. */
export type Answer = { done: boolean; sentence: string }

/** What the dialog asks of whoever keeps the choice. */
type Keeping = {
  read: () => Promise<State>
  letGo: (photo: string) => void
  send: (words: string) => Promise<Answer>
}

/** What a visitor has chosen, looked through before it is sent, and after. */
export class ChoiceDialog {
  private readonly dialog = make('dialog', { className: 'choice' })
  /** What is being written, whatever is drawn anew meanwhile. */
  private readonly words = make('textarea', { rows: 3, maxLength: 2000 })
  private readonly said = make('p', { role: 'status' })

  constructor(private readonly keeping: Keeping) {
    document.body.append(this.dialog)
    this.dialog.addEventListener('click', (e) => {
      if (e.target === this.dialog) this.dialog.close()
    })
  }

  async open() {
    const state = await this.keeping.read()
    this.words.value ||= state.words
    this.said.textContent = ''
    this.draw(state)
    if (!this.dialog.open) this.dialog.showModal()
  }

  private draw(state: State) {
    const { photos } = state
    const close = () => this.dialog.close()
    const heading = make('h2', { id: 'choice-heading', tabIndex: -1 }, w.yourFavourites)
    this.dialog.setAttribute('aria-labelledby', 'choice-heading')
    const verbs = make('p', { className: 'favourite-verbs' })
    const asks = () => {
      const first = photos.length > 0 && button(w.sendChosen(photos.length), sure, { className: 'next' })
      verbs.replaceChildren(...(first ? [first] : []), button(w.chooseOn, close))
    }
    const sure = () => {
      const now = button(w.sendNow, () => void this.send(), { className: 'next' })
      verbs.replaceChildren(make('span', {}, w.sendFinal), now, button(w.notYet, asks))
      now.focus()
    }
    if (state.closed) verbs.replaceChildren(button(w.close, close))
    else asks()
    const frames = photos.map(({ id, src, alt }) => {
      const picture = make('img', { src, alt, loading: 'lazy' })
      if (state.closed) return make('li', {}, picture)
      const ring = make('span', { className: 'ring' })
      const press = () => {
        this.keeping.letGo(id)
        this.draw({ ...state, photos: photos.filter((p) => p.id !== id) })
        this.dialog.querySelector<HTMLElement>('h2')?.focus()
      }
      return make(
        'li',
        {},
        make('button', { type: 'button', ariaLabel: w.letGo(alt), onclick: press }, picture, ring),
      )
    })
    const words = state.closed
      ? state.words && make('blockquote', {}, state.words)
      : photos.length > 0 && make('label', {}, w.sayWith, this.words)
    this.dialog.replaceChildren(
      heading,
      make('p', {}, state.closed ?? (photos.length > 0 ? w.whoSees(state.isShared) : w.noneChosen)),
      ...(frames.length > 0
        ? [make('p', {}, w.chosen(photos.length, state.most, state.isLimited)), make('ul', {}, ...frames)]
        : []),
      ...(words ? [words] : []),
      this.said,
      verbs,
    )
  }

  private async send() {
    const { done, sentence } = await this.keeping.send(this.words.value)
    this.draw(await this.keeping.read())
    this.said.textContent = done ? '' : sentence
    this.dialog.querySelector<HTMLElement>('h2')?.focus()
  }
}
