import type { Api } from '../api/client'
import { deviceNow, saidOf } from './device'
import { dress, type Frame, make, read } from './frames'
import { lotOfVisit } from './lot'

export type View = Api['SiteView']
export type { Frame } from './frames'

/** For which width of the block and the window photos are placed, CSS pixels. */
export type Room = { width: number; window: number }

/**
 * The photos of one block. The first of them stand in the page as the server laid it out; of many, the rest is fetched as one comes
 * to them. The rules stay on the server: it narrows and places.
 */
export class Walk {
  readonly number: number
  /** How many photos the visitor's choice leaves. */
  shown: number
  /** What the visitor chose, as it stands in an address. */
  choice: string
  protected readonly frames = new Map<number, Frame>()
  protected readonly links = new Map<number, HTMLAnchorElement>()
  protected asked = 0
  /** What it shows is what this device shows. */
  private device = deviceNow()
  /** Not every device shows the same photos. */
  private readonly differs: boolean
  private readonly address: string

  /** The places at photos in which words stand, each with its lines. */
  protected readonly words: readonly string[]

  constructor(readonly element: HTMLElement) {
    const data = element.dataset
    this.number = Number(data.walk)
    this.words = data.words?.split(' ') ?? []
    this.address = data.view ?? ''
    this.differs = data.differs !== undefined
    this.shown = Number(saidOf(this.device, data.shown))
    this.choice = this.choiceIn(location.href)
    const links = [...element.querySelectorAll<HTMLAnchorElement>('a[data-id]')]
    // The page numbers those of all devices; here are those of this one.
    let passed = this.differs ? Number(links[0]?.dataset.place) - this.from : 0
    for (const link of links) {
      if (link.dataset.absent?.includes(this.device)) {
        link.remove()
        passed++
        continue
      }
      const place = Number(link.dataset.place) - passed
      link.dataset.place = String(place)
      this.links.set(place, link)
      this.frames.set(place, read(link, place))
    }
  }

  /** How more photos come than stand in the page: at a button, or on pages with numbers; undefined for as one comes to them. */
  get by() {
    return this.element.dataset.by as 'button' | 'numbers' | undefined
  }

  /** Whether some of the photos are not in the page. */
  get isLong() {
    return this.shown > this.frames.size
  }

  /** The place that the page begins with, from 0. */
  get from() {
    return Number(saidOf(this.device, this.element.dataset.from))
  }

  /** Other devices show other photos, and the window has become that of another one. */
  get isOfAnotherDevice() {
    return this.differs && this.device !== deviceNow()
  }

  /** The server left the order to the lot of this visit. */
  get isToBeDrawn() {
    return this.element.dataset.lots !== undefined
  }

  /** A part of an address that is about this walk. */
  private named(name: string) {
    return this.number === 1 ? name : `${name}${this.number}`
  }

  /** What names the visitor's choice in this walk in an address: buttons, words, an order, and how far they have come. */
  private get parameters() {
    const far = this.by === 'numbers' ? ['from'] : this.by === 'button' ? ['to'] : []
    return ['show', 'find', 'order', ...far].map((name) => this.named(name))
  }

  /** The part of an address that is the visitor's choice in this walk. */
  choiceIn(url: string): string {
    const all = new URL(url, location.href).searchParams
    const mine = new URLSearchParams()
    for (const name of this.parameters) {
      const said = all.get(name)
      if (said) mine.set(name, said)
    }
    return mine.toString()
  }

  /** The choice that has a photo stand there which does not, by its place: on its page, or so many more. */
  protected choiceHolding(place: number): string {
    const choice = new URLSearchParams(this.choice)
    const step = Number(this.element.dataset.step)
    if (this.by === 'numbers') choice.set(this.named('from'), String(Math.floor(place / step) * step + 1))
    else choice.set(this.named('to'), String((Math.floor(place / step) + 2) * step))
    return choice.toString()
  }

  /** Photos came or went since the page was opened. */
  isOlderThan(view: View) {
    return view.mark !== this.element.dataset.mark
  }

  /** A photo by its place; undefined while it is not known. */
  at(place: number): Frame | undefined {
    return this.frames.get(place)
  }

  find(id: string): number | undefined {
    for (const [place, frame] of this.frames) if (frame.id === id) return place
    return undefined
  }

  /** The link to a photo, while it stands in the document. */
  link(place: number): HTMLAnchorElement | undefined {
    const link = this.links.get(place)
    return link?.isConnected ? link : undefined
  }

  /** Sees to it that the photos about a place are known. */
  async near(place: number, by: number): Promise<void> {
    const from = Math.max(0, place - by)
    for (let p = from; p <= Math.min(place + by, this.shown - 1); p++)
      if (!this.frames.has(p)) {
        const view = await this.ask({ at: from, count: 2 * by + 1 })
        this.learn(view)
        return
      }
  }

  /** Asks the server for a part of the photos, or for the beginning of another choice. */
  async ask(part: Record<string, number>, choice = this.choice, room = this.room()): Promise<View> {
    const query = new URLSearchParams(location.search)
    for (const [name, value] of Object.entries({ ...part, width: room.width, window: room.window }))
      query.set(name, String(value))
    query.set('in', String(this.number))
    query.delete(this.named('from'))
    for (const name of this.parameters) query.delete(name)
    for (const [name, said] of new URLSearchParams(choice)) query.set(name, said)
    if (this.isToBeDrawn) query.set('lot', lotOfVisit(Number(this.element.dataset.lots)))
    const answer = await fetch(`${this.address}?${query}`)
    if (!answer.ok) throw new Error(answer.statusText)
    return answer.json()
  }

  protected room(): Room {
    return { width: this.element.clientWidth, window: innerWidth }
  }

  protected learn(view: View) {
    for (const { box: _, ...frame } of view.frames) this.frames.set(frame.place, frame)
  }

  /** Forgets what stood there: another choice is shown. The links of photos that stay are given back by their photos. */
  protected turned(view: View): Map<string | undefined, HTMLAnchorElement> {
    const before = new Map([...this.links.values()].map((link) => [link.dataset.id, link]))
    this.frames.clear()
    this.links.clear()
    this.choice = this.choiceIn(view.link)
    this.device = deviceNow()
    this.shown = view.shown
    this.element.dataset.shown = String(view.shown)
    return before
  }

  /** Where the line is down photos that were to be drawn stand as for those in whose browser no script runs. */
  standAsItCame() {
    if (this.links.size > 0) return
    const plain = this.element.querySelector('noscript')
    plain?.replaceWith(document.createRange().createContextualFragment(plain.textContent ?? ''))
  }

  /** One photo that stands alone: the first that is drawn. */
  async drawOne(): Promise<void> {
    this.learn(await this.ask({ at: 0, count: 1 }))
    const frame = this.at(0)
    if (!frame) return
    const link = dress(make(), frame, this.words)
    const picture = link.querySelector('img')
    if (picture) picture.sizes = this.element.dataset.sizes ?? ''
    this.links.set(0, link)
    this.element.append(link)
  }

  /** Shows another choice: what was there before is placed anew, or goes. Null when somebody chose again meanwhile. */
  turn(_choice: string): Promise<View | null> {
    return Promise.resolve(null)
  }

  /** Fetches what is seen and not known yet. */
  async fill(): Promise<void> {}

  /** Brings a photo that is known into view. */
  async reach(_place: number): Promise<void> {}

  /** Brings a photo into view and leaves the keyboard there: where one was when the viewer closes. */
  async show(place: number): Promise<void> {
    await this.reach(place)
    const link = this.link(place)
    link?.focus({ preventScroll: true })
    link?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }
}
