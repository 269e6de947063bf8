import { w } from '../words/site'
import { button, make } from './dom'
import type { SentPhoto, SentServer } from './sentServer'

/** So many are on their way at the same time. */
const atOnce = 2

/** The photos of a contribution: what has come, what is coming, and what is done with each. */
export class SentPhotos {
  readonly list = make('ol', { className: 'sent-photos' })
  private readonly said = make('p', { className: 'fault', role: 'alert' })
  readonly element = make('div', {}, this.said, this.list)
  private readonly queue: (() => Promise<void>)[] = []
  private running = 0

  /**
   * @param isSent They are sent: each says where it stands.
   * @param onChange After one more has come or gone.
   */
  constructor(
    private readonly server: SentServer,
    private isSent: boolean,
    private readonly onChange: () => void,
  ) {}

  /** How many have come, and how many are on their way or did not get through. */
  get counts() {
    return {
      come: this.list.querySelectorAll('[data-photo]').length,
      open: this.list.querySelectorAll('[data-coming]').length,
    }
  }

  show(photos: readonly SentPhoto[], isSent: boolean) {
    this.isSent = isSent
    this.list.replaceChildren(...photos.map((p) => this.card(p)))
    this.onChange()
  }

  /** Sends files, a few at a time, each as a line of its own. */
  take(files: Iterable<File>, room: number) {
    this.said.textContent = ''
    for (const file of [...files].slice(0, Math.max(0, room))) {
      const line = make('li', {})
      line.dataset.coming = ''
      this.list.append(line)
      this.send(file, line)
    }
    this.onChange()
  }

  private send(file: File, line: HTMLLIElement) {
    const bar = make('progress', { max: 1, value: 0, ariaLabel: w.coming(file.name) })
    line.replaceChildren(make('p', {}, file.name), bar)
    this.queue.push(async () => {
      const come = await this.server.add(file, (share) => {
        bar.value = share
      })
      if ('sentence' in come) {
        const away = () => {
          line.remove()
          this.onChange()
        }
        const again = () => {
          this.send(file, line)
          this.onChange()
        }
        line.replaceChildren(
          make('p', {}, file.name),
          make('p', { className: 'fault', role: 'alert' }, come.sentence),
          make(
            'p',
            { className: 'photo-verbs' },
            ...(come.isRefused ? [] : [button(w.tryAgain, again)]),
            button(w.leaveOut, away),
          ),
        )
        // What is refused keeps nobody from sending the others.
        if (come.isRefused) {
          line.dataset.refused = ''
          line.removeAttribute('data-coming')
        }
      } else if (this.list.querySelector(`[data-photo="${come.id}"]`)) line.remove()
      else line.replaceWith(this.card(come))
      this.onChange()
    })
    void this.go()
  }

  private async go() {
    if (this.running >= atOnce) return
    this.running++
    for (let next = this.queue.shift(); next; next = this.queue.shift()) await next()
    this.running--
  }

  private card(photo: SentPhoto): HTMLLIElement {
    const line = make('li', {})
    line.dataset.photo = photo.id
    const name = photo.title || photo.fileName
    const isGone = photo.state === 'withdrawn' || (photo.state === 'refused' && this.isSent)
    const picture = make('img', {
      src: this.server.picture(photo.id, 480),
      alt: name,
      width: photo.width,
      height: photo.height,
      loading: 'lazy',
    })
    // What is not kept any more has no picture.
    picture.onerror = () => picture.remove()
    const within = make('div', {})
    line.append(
      make('div', { className: 'picture' }, ...(photo.state === 'withdrawn' ? [] : [picture])),
      within,
    )
    if (this.isSent) {
      const state = make('p', { className: 'standing' }, make('strong', {}, w.states[photo.state]))
      state.dataset.state = photo.state
      within.append(state)
      if (photo.reason) within.append(make('blockquote', {}, photo.reason))
    }
    if (photo.state === 'waiting') within.append(...this.fields(photo))
    else {
      within.append(make('p', {}, name))
      if (photo.caption) within.append(make('p', { className: 'caption' }, photo.caption))
    }
    if (!isGone) within.append(this.verbs(line, photo))
    return line
  }

  /** Its words, kept as soon as one goes on. */
  private fields(photo: SentPhoto): Node[] {
    const title = make('input', { type: 'text', value: photo.title, maxLength: 200 })
    const caption = make('textarea', { value: photo.caption, maxLength: 2000, rows: 2 })
    const said = make('p', { className: 'kept', role: 'status' })
    const keep = async () => {
      const body = { title: title.value, caption: caption.value }
      const { done, sentence } = await this.server.do(`/photos/${photo.id}`, 'PUT', body)
      said.textContent = done ? w.kept : sentence
    }
    title.onchange = keep
    caption.onchange = keep
    return [make('label', {}, w.photoTitle, title), make('label', {}, w.photoCaption, caption), said]
  }

  private verbs(line: HTMLLIElement, photo: SentPhoto): Node {
    const verbs = make('p', { className: 'photo-verbs' })
    const away = async () => {
      const { done, sentence } = await this.server.do(`/photos/${photo.id}`, 'DELETE')
      if (!done) this.said.textContent = sentence
      else if (!this.isSent) {
        const beside = line.nextElementSibling ?? line.previousElementSibling
        line.remove()
        beside?.querySelector('input')?.focus()
      } else line.replaceWith(this.card({ ...photo, state: 'withdrawn' }))
      this.onChange()
    }
    const sure = () => {
      const now = button(w.takeBackNow, () => void away())
      verbs.replaceChildren(
        ...(photo.state === 'accepted' ? [make('span', {}, w.takeBackSure)] : []),
        now,
        button(w.notYet, show),
      )
      now.focus()
    }
    const show = () =>
      verbs.replaceChildren(
        ...(this.isSent
          ? [button(w.takeBack, sure)]
          : [
              button(w.earlier, () => this.move(line, -1), { className: 'earlier' }),
              button(w.later, () => this.move(line, 1), { className: 'later' }),
              button(w.leaveOut, () => void away()),
            ]),
      )
    show()
    return verbs
  }

  private move(line: HTMLLIElement, by: 1 | -1) {
    const focused = document.activeElement
    if (by < 0) line.previousElementSibling?.before(line)
    else line.nextElementSibling?.after(line)
    if (focused instanceof HTMLElement) focused.focus()
    const photos = [...this.list.querySelectorAll<HTMLElement>('[data-photo]')].map((l) => l.dataset.photo)
    void this.server.do('/order', 'PUT', { photos }).then(({ done, sentence }) => {
      this.said.textContent = done ? '' : sentence
    })
  }
}
