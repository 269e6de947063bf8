import type { Api } from '../api/client'
import { deviceNow } from './device'
import { dress, make } from './frames'
import { nextFrame, rest } from './onceAFrame'
import { Settling } from './settle'
import { type View, Walk } from './walk'

type Box = Api['SiteBox']

/** So many screens beyond what is seen are fetched ahead, and so many more stay in the document. */
const ahead = 1.5
const kept = 2.5
/** Frames are put into the document for so long at once, ms, and no fewer than so many: what the browser then does with them takes it as long again. */
const drawsFor = 5
const atLeast = 4

/** How photos were placed: for which width of the block and the window, CSS pixels, and the height that all take. */
type Placed = { width: number; window: number; height: number }

/** What stands between two heights of the block, in the pixels of the placing. */
type Part = { top: number; bottom: number }

/** Photos that stand beneath each other, each in the box that the server gave it. Only those near what is seen stand in the document. */
export class PlacedWalk extends Walk {
  private placed: Placed | null
  private readonly boxes = new Map<number, Box>()
  /** The boxes that links stand in. */
  private readonly stood = new WeakMap<HTMLAnchorElement, Box>()
  /** Heights between which every photo is known, in the pixels of the placing. */
  private covered: Part[] = []
  private filling: Promise<void> | null = null
  private drawing = false
  private measured: { top: number; width: number } | null = null
  private readonly isList: boolean
  /** Shows a choice that has a photo stand there. */
  onSeek: (choice: string) => Promise<unknown> = async () => {}
  /** The server has told what stands there. */
  onTold: (view: View) => void = () => {}

  constructor(element: HTMLElement) {
    super(element)
    this.isList = element.classList.contains('list')
    this.placed = this.asInThePage()
  }

  /** Photos move to their new places, where that is wanted on this device and by this visitor. */
  private get moves() {
    return (
      !this.element.dataset.still?.includes(deviceNow()) &&
      !matchMedia('(prefers-reduced-motion: reduce)').matches
    )
  }

  /** How the photos were placed that the page came with: for the band of widths that the window is in. */
  private asInThePage(): Placed | null {
    const { bands } = this.element.dataset
    if (!bands || (this.from !== 0 && this.by !== 'numbers')) return null
    for (const band of bands.split(';')) {
      const [most, window, width] = band.split(',')
      if (most && innerWidth > Number(most)) continue
      const across = Number(width)
      return {
        width: across,
        window: Number(window),
        height: (across * this.element.clientHeight) / this.element.clientWidth,
      }
    }
    return null
  }

  protected override room(): Placed {
    return this.placed ?? { ...super.room(), height: 0 }
  }

  protected override learn(view: View) {
    super.learn(view)
    for (const { box, place } of view.frames) if (box) this.boxes.set(place, box)
  }

  /** Shows another choice or another width: what was there before is placed anew, or goes. */
  override async turn(choice: string): Promise<View | null> {
    const mine = ++this.asked
    this.measured = null
    const placed = { width: this.element.clientWidth, window: innerWidth, height: 0 }
    const part = this.seen(ahead, placed)
    const view = await this.ask(part, choice, placed)
    // To read an answer, to place its photos and to have them move are each work enough for a slow device.
    await rest()
    if (mine !== this.asked) return null
    if (this.isOlderThan(view)) return view
    placed.height = view.height
    this.measure()
    const settling =
      choice !== this.choice && this.moves ? new Settling(this.element, this.links.values()) : null
    const before = this.turned(view)
    this.boxes.clear()
    this.covered = []
    this.placed = placed
    this.learn(view)
    for (const [place, frame] of this.frames) {
      const link = before.get(frame.id)
      if (link) this.links.set(place, dress(link, frame, this.words))
    }
    const stays = new Set(this.links.values())
    for (const link of before.values())
      if (!stays.has(link)) {
        if (settling) settling.leave(link)
        else link.remove()
      }
    this.element.style.aspectRatio = `${placed.width} / ${Math.max(placed.height, 1)}`
    this.cover(part, view)
    this.draw()
    if (settling) void nextFrame().then(() => settling.settle(this.links.values()))
    return view
  }

  /** Where the block stands in the window and how wide it is, measured once a frame of the screen: between changes that would be dear. */
  private measure() {
    if (!this.measured) {
      this.measured = { top: this.element.getBoundingClientRect().top, width: this.element.clientWidth }
      requestAnimationFrame(() => {
        this.measured = null
      })
    }
    return this.measured
  }

  /** Between which heights the block is seen, in the pixels of the placing, with some screens more on either side. */
  private seen(screens: number, placed = this.room()): Part {
    const { top, width } = this.measure()
    const scale = placed.width / width
    return {
      top: Math.max(0, Math.floor((-top - screens * innerHeight) * scale)),
      bottom: Math.ceil((-top + (1 + screens) * innerHeight) * scale),
    }
  }

  /** Notes that everything is known between two heights, or to the last photo of an answer that could not hold all. */
  private cover({ top, bottom }: Part, view: View) {
    const last = view.frames.at(-1)?.box
    this.covered.push({ top, bottom: view.isCut && last ? Math.min(bottom, last.y) : bottom })
  }

  /** The height from which on something is not known; undefined where all is. */
  private gap({ top, bottom }: Part): number | undefined {
    let to = top
    for (const part of [...this.covered].sort((a, b) => a.top - b.top))
      if (part.top <= to) to = Math.max(to, part.bottom)
    return to < Math.min(bottom, this.room().height) ? to : undefined
  }

  override async reach(place: number): Promise<void> {
    if (this.link(place)) return
    // It was come to in the viewer and does not stand there yet, or stands on another page.
    if (this.by && !this.boxes.has(place)) {
      await this.onSeek(this.choiceHolding(place))
      await this.near(place, 1).catch(() => {})
    }
    const box = this.boxes.get(place)
    if (this.link(place) || !box) return
    const beneath = (box.y * this.element.clientWidth) / this.room().width
    const top = this.element.getBoundingClientRect().top + scrollY + beneath
    window.scrollTo({ top: Math.max(0, top - innerHeight / 3) })
    this.measured = null
    // What is being fetched was asked for from where one stood before.
    await this.filling?.catch(() => {})
    await this.fill().catch(() => {})
    // What was dressed in turn is, after some frames of the screen, all that is seen.
    for (let i = 0; i < 30 && !this.link(place); i++) {
      await nextFrame()
      this.draw()
    }
  }

  /** Fetches what is seen and not known yet, and draws what is near. */
  override fill(): Promise<void> {
    this.filling ??= this.fillNow().finally(() => {
      this.filling = null
    })
    return this.filling
  }

  private async fillNow() {
    for (let top = this.gap(this.seen(0.5)); top !== undefined; top = this.gap(this.seen(0.5))) {
      const mine = this.asked
      const part = { top, bottom: this.seen(ahead).bottom }
      const view = await this.ask(part)
      if (mine !== this.asked) continue
      if (this.isOlderThan(view)) break
      this.onTold(view)
      this.learn(view)
      this.cover(part, view)
    }
    this.drawSoon()
  }

  /** Draws before the next frame of the screen: once, whatever asked for it. To read an answer was enough for the present one. */
  private drawSoon() {
    if (this.drawing) return
    this.drawing = true
    requestAnimationFrame(() => {
      this.drawing = false
      this.draw()
    })
  }

  /** Photos near what is seen stand in the document, in their order; others do not. What it measures it measures before it changes anything. */
  draw() {
    const { top, bottom } = this.seen(kept)
    const now = this.seen(0.1)
    const across = this.measure().width
    // In a list the style sheet says how wide pictures are.
    const picture = this.isList
      ? Number.parseFloat(getComputedStyle(this.element).getPropertyValue('--picture')) || across
      : null
    const inView = (box: Box) => box.y + box.height >= now.top && box.y <= now.bottom
    const wanted: number[] = []
    const added: { place: number; box: Box }[] = []
    for (const [place, box] of this.boxes)
      if (box.y + box.height >= top && box.y <= bottom) {
        wanted.push(place)
        if (!this.link(place)) added.push({ place, box })
      }
    wanted.sort((a, b) => a - b)
    // What is seen comes first, and the nearer of the rest.
    const middle = (now.top + now.bottom) / 2
    const away = (box: Box) => Math.abs(box.y + box.height / 2 - middle)
    added.sort((a, b) => Number(inView(b.box)) - Number(inView(a.box)) || away(a.box) - away(b.box))
    const comes = this.dressed(added.map(({ place }) => place))
    const stays = new Set(wanted)
    for (const [place, link] of this.links)
      if (link.isConnected && this.boxes.has(place) && !stays.has(place) && link !== document.activeElement)
        link.remove()
    let next: Element | null = null
    for (const place of wanted.reverse()) {
      const box = this.boxes.get(place)
      const link = this.links.get(place)
      if (!box || !link || !(comes.has(place) || link.isConnected)) continue
      this.stand(link, box, Math.ceil(picture ?? (box.width / this.room().width) * across))
      if (!link.isConnected || (next && link.nextElementSibling !== next))
        this.element.insertBefore(link, next)
      next = link
    }
    if (comes.size < added.length) this.drawSoon()
  }

  /** Sees to it that there are links for the first of some photos, as many as there is time for; says for which. */
  private dressed(places: number[]): Set<number> {
    const comes = new Set<number>()
    const until = performance.now() + drawsFor
    for (const place of places) {
      if (comes.size >= atLeast && performance.now() > until) break
      const frame = this.frames.get(place)
      if (!frame) continue
      if (!this.links.has(place)) this.links.set(place, dress(make(), frame, this.words))
      comes.add(place)
    }
    return comes
  }

  /** Puts a photo in its box. */
  private stand(link: HTMLAnchorElement, box: Box, across: number) {
    if (this.stood.get(link) === box) return
    this.stood.set(link, box)
    const { width, height } = this.room()
    Object.assign(link.style, {
      left: `${(box.x / width) * 100}%`,
      top: `${(box.y / height) * 100}%`,
      width: `${(box.width / width) * 100}%`,
      height: `${(box.height / height) * 100}%`,
    })
    const picture = link.querySelector('img')
    if (picture && picture.dataset.across !== String(across)) {
      picture.dataset.across = String(across)
      picture.sizes = `${across}px`
    }
  }
}
