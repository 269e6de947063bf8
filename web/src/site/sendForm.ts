import { w } from '../words/site'
import { make } from './dom'
import type { Sent, Taken } from './sentServer'

/** What is said with photos before they are sent in. */
export class SendForm {
  private readonly name = make('input', { type: 'text', autocomplete: 'name', maxLength: 80 })
  private readonly email = make('input', { type: 'email', autocomplete: 'email', maxLength: 254 })
  private readonly words = make('textarea', { rows: 3, maxLength: 2000 })
  private readonly agreed = make('input', { type: 'checkbox' })
  private readonly album = make('select')
  private readonly title = make('input', { type: 'text', maxLength: 200 })
  private readonly untitled = make('p', { className: 'fault', role: 'alert' })
  private readonly category = make('select')
  private readonly comments = make('input', { type: 'checkbox' })
  private readonly said = make('p', { className: 'fault', role: 'alert' })
  private readonly press = make('button', { type: 'submit' })
  readonly element = make('form', { noValidate: true })

  constructor(
    private readonly state: Sent,
    private readonly send: (body: object) => Promise<Taken>,
  ) {
    this.name.value = state.name
    this.email.value = state.email
    this.element.append(
      ...(state.isKnown
        ? []
        : [...field(w.yourName, this.name, 'name'), ...field(w.yourEmail, this.email, 'email')]),
      ...(state.albums ? this.albumFields(state.albums) : []),
      ...field(w.sayWithPhotos, this.words, 'words'),
      ...(state.agree ? [tick(state.agree, this.agreed), fault('agreed')] : []),
      this.said,
      make('p', { className: 'send' }, this.press),
    )
    this.element.onsubmit = (e) => {
      e.preventDefault()
      void this.submit()
    }
  }

  /** Says how many are to be sent, and whether that can be done now. */
  show(come: number, open: number) {
    this.press.textContent = w.sendIn(Math.max(1, come))
    this.press.disabled = come === 0 || open > 0
    this.said.textContent = come === 0 ? '' : open > 0 ? w.stillComing : ''
  }

  private albumFields(albums: Sent['albums'] & object): Node[] {
    const choice = (value: string, words: string) => make('option', { value, textContent: words })
    this.album.append(
      choice('', w.albumNone),
      choice('new', w.albumNew),
      ...albums.map((a) => choice(a.id, a.name)),
    )
    this.category.append(
      choice('', w.albumNowhere),
      ...this.state.categories.map((c) => choice(c.id, c.name)),
    )
    const more = make(
      'div',
      { className: 'new-album', hidden: true },
      make('label', {}, w.albumTitle, this.title),
      this.untitled,
      ...(this.state.categories.length > 0 ? [make('label', {}, w.albumWhere, this.category)] : []),
      tick(w.albumComments, this.comments),
    )
    this.album.onchange = () => {
      more.hidden = this.album.value !== 'new'
    }
    return [make('label', {}, w.albumOf, this.album), more]
  }

  private async submit() {
    const isNew = this.album.value === 'new'
    this.untitled.textContent = isNew && !this.title.value.trim() ? w.albumUntitled : ''
    if (this.untitled.textContent) {
      this.title.focus()
      return
    }
    const { done, sentence, fields } = await this.send({
      name: this.name.value,
      email: this.email.value,
      words: this.words.value,
      agreed: this.agreed.checked,
      album: {
        album: isNew || !this.album.value ? null : this.album.value,
        title: isNew ? this.title.value : '',
        category: isNew && this.category.value ? this.category.value : null,
        comments: isNew && this.comments.checked,
      },
    })
    if (done) return
    for (const about of this.element.querySelectorAll<HTMLElement>('[data-fault]'))
      about.textContent = fields[about.dataset.fault ?? ''] ?? ''
    const isElsewhere = !Object.keys(fields).some((f) => this.element.querySelector(`[data-fault="${f}"]`))
    this.said.textContent = isElsewhere ? sentence : ''
    const first = Object.keys(fields)[0]
    this.element.querySelector<HTMLElement>(`[name="${first}"]`)?.focus()
  }
}

function fault(name: string): HTMLElement {
  const said = make('p', { className: 'fault', role: 'alert' })
  said.dataset.fault = name
  return said
}

function field(words: string, input: HTMLInputElement | HTMLTextAreaElement, name: string): Node[] {
  input.name = name
  return [make('label', {}, words, input), fault(name)]
}

const tick = (words: string, input: HTMLInputElement) =>
  make('label', { className: 'tick' }, input, make('span', {}, words))
