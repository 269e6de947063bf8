import type { Api } from '../api/client'
import { w } from '../words/site'
import { button, make } from './dom'

type State = Api['ChoosingState']

/** How something was taken: a sentence where it was not. */
export type Answer = { done: boolean; sentence: string }

/** What the dialog asks of whoever keeps the choice. */
type Keeping = {
  read: () => Promise<State>
  /** Lets go of a photo, or chooses it after all; a sentence where that is not possible. */
  turn: (photo: string, on: boolean) => string
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
    // Who lets go of one may think again: it stays where it is as long as this is open.
    const gone = new Set<string>()
    const count = make('p')
    const words = make('label', {}, w.sayWith, this.words)
    const buy = state.buy ? [make('a', { href: state.buy }, w.buySome)] : []
    const verbs = make('p', { className: 'favourite-verbs' })
    const show = () => {
      const n = photos.length - gone.size
      count.textContent = w.chosen(n, state.most, state.isLimited)
      words.hidden = n === 0
      if (state.closed) verbs.replaceChildren(button(w.close, close), ...buy)
      else {
        const first = n > 0 ? [button(w.sendChosen(n), sure, { className: 'next' })] : []
        verbs.replaceChildren(...first, button(w.chooseOn, close), ...(n > 0 ? buy : []))
      }
    }
    const sure = () => {
      const now = button(w.sendNow, () => void this.send(), { className: 'next' })
      verbs.replaceChildren(make('span', {}, w.sendFinal), now, button(w.notYet, show))
      now.focus()
    }
    const frame = ({ id, src, alt }: State['photos'][number]) => {
      const picture = make('img', { src, alt, loading: 'lazy' })
      if (state.closed) return make('li', {}, picture)
      const ring = make('span', { className: 'ring' })
      const press = make('button', { type: 'button', ariaPressed: 'true' }, picture, ring)
      press.onclick = () => {
        const on = gone.has(id)
        this.said.textContent = this.keeping.turn(id, on)
        if (this.said.textContent) return
        if (on) gone.delete(id)
        else gone.add(id)
        press.ariaPressed = String(on)
        show()
      }
      return make('li', {}, press)
    }
    show()
    const said = state.closed && state.words ? [make('blockquote', {}, state.words)] : []
    this.dialog.replaceChildren(
      heading,
      make('p', {}, state.closed ?? (photos.length > 0 ? w.whoSees(state.isShared) : w.noneChosen)),
      ...(photos.length > 0 ? [count, make('ul', {}, ...photos.map(frame))] : []),
      ...(state.closed ? said : [words]),
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
