import { dress, make } from './frames'
import { type View, Walk } from './walk'

/** So many photos are fetched at once. */
const atOnce = 60

/** Photos that stand one after the other, a strip or slides. The style sheet places them; those at the end follow as one comes to them. */
export class AlongWalk extends Walk {
  /** So many photos stand in the document, from the first. */
  private standing: number
  private filling: Promise<void> | null = null

  constructor(
    element: HTMLElement,
    readonly run: HTMLElement,
  ) {
    super(element)
    this.standing = this.links.size
  }

  /** All photos stand in the document. */
  get isWhole() {
    return this.standing >= this.shown
  }

  override async turn(choice: string): Promise<View | null> {
    const mine = ++this.asked
    const view = await this.ask({ at: 0, count: atOnce }, choice)
    if (mine !== this.asked) return null
    if (this.isOlderThan(view)) return view
    const before = this.turned(view)
    for (const link of before.values()) link.remove()
    this.standing = 0
    this.learn(view)
    for (const frame of this.frames.values()) {
      const link = before.get(frame.id)
      if (link) this.links.set(frame.place, dress(link, frame, this.words))
    }
    this.stand()
    this.element.scrollTo({ left: 0, behavior: 'instant' })
    this.element.dispatchEvent(new Event('turned'))
    return view
  }

  /** Fetches what follows on the last that stands there. */
  override fill(): Promise<void> {
    if (this.isWhole) return Promise.resolve()
    this.filling ??= this.further().finally(() => {
      this.filling = null
    })
    return this.filling
  }

  private async further() {
    const mine = this.asked
    if (!this.frames.has(this.standing)) {
      const view = await this.ask({ at: this.standing, count: atOnce })
      if (mine !== this.asked || this.isOlderThan(view)) return
      this.learn(view)
    }
    this.stand()
  }

  /** Puts the photos that are known, and follow on those that stand there, into the document. */
  private stand() {
    const added = document.createDocumentFragment()
    for (let frame = this.at(this.standing); frame; frame = this.at(this.standing)) {
      const link = this.links.get(this.standing) ?? dress(make(), frame, this.words)
      this.links.set(this.standing, link)
      const picture = link.querySelector('img')
      if (picture) picture.sizes = this.sizeOf(frame.width / frame.height)
      added.append(link)
      this.standing++
    }
    this.element.append(added)
  }

  /** How wide a photo of a shape stands, for the choice among its renditions. */
  private sizeOf(shape: number) {
    const { clientWidth, clientHeight } = this.element
    const crops = this.run.dataset.run === 'slides' && !this.element.classList.contains('whole')
    return `${Math.ceil(crops ? Math.max(clientWidth, clientHeight * shape) : Math.min(clientWidth, clientHeight * shape))}px`
  }

  /** The link to a photo, fetched with those before it where it does not stand there yet; undefined where that cannot be. */
  async bring(place: number): Promise<HTMLAnchorElement | undefined> {
    while (place >= this.standing && place < this.shown) {
      const before = this.standing
      await this.fill().catch(() => {})
      if (this.standing === before) break
    }
    return this.link(place)
  }

  override async reach(place: number): Promise<void> {
    const link = await this.bring(place)
    if (link) this.element.dispatchEvent(new CustomEvent('sought', { detail: link }))
  }
}
