import type { Api } from '../api/client'

export type View = Api['SiteView']
export type Frame = Omit<Api['SiteFrame'], 'box'>
type Box = Api['SiteBox']

/** So many screens beyond what is seen are fetched ahead, and so many more stay in the document. */
const ahead = 1.5
const kept = 2.5
/** So many frames are put into the document at once, besides those that are seen: a browser on a phone draws them between two frames. */
const atOnce = 16

/** How photos were placed: for which width of the block and the window, CSS pixels, and the height that all take. */
type Placed = { width: number; window: number; height: number }

/** What stands between two heights of the block, in the pixels of the placing. */
type Part = { top: number; bottom: number }

/**
 * The photos of one block. The first of them stand in the page as the server laid it out; of many, the rest is fetched as one
 * scrolls, and only those near what is seen stand in the document. The rules stay on the server: it narrows and places.
 */
export class Walk {
  readonly number: number
  /** How many photos the visitor's choice leaves. */
  shown: number
  choice: string
  private readonly address: string
  private placed: Placed | null
  private readonly frames = new Map<number, Frame>()
  private readonly boxes = new Map<number, Box>()
  private readonly links = new Map<number, HTMLAnchorElement>()
  /** The boxes that links stand in. */
  private readonly stood = new WeakMap<HTMLAnchorElement, Box>()
  /** Heights between which every photo is known, in the pixels of the placing. */
  private covered: Part[] = []
  private asked = 0
  private filling = false
  private drawing = false

  constructor(readonly element: HTMLElement) {
    const data = element.dataset
    this.number = Number(data.walk)
    this.address = data.view ?? ''
    this.shown = Number(data.shown)
    this.choice = new URL(location.href).searchParams.get(this.parameter) ?? ''
    for (const link of element.querySelectorAll<HTMLAnchorElement>('a[data-id]')) {
      const place = Number(link.dataset.place)
      this.links.set(place, link)
      this.frames.set(place, read(link, place))
    }
    this.placed = this.asInThePage()
  }

  /** Whether some of the photos are not in the page. */
  get isLong() {
    return this.element.dataset.bands !== undefined && this.shown > this.frames.size
  }

  get parameter() {
    return this.number === 1 ? 'show' : `show${this.number}`
  }

  /** How the photos were placed that the page came with: for the band of widths that the window is in. */
  private asInThePage(): Placed | null {
    const { bands, from } = this.element.dataset
    if (!bands || from !== '0') return null
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

  /** How far below the upper edge of the block a photo begins, CSS pixels. */
  heightOf(place: number): number {
    return ((this.boxes.get(place)?.y ?? 0) * this.element.clientWidth) / this.now().width
  }

  /** Sees to it that the photos about a place are known. */
  async near(place: number, by: number): Promise<void> {
    const from = Math.max(0, place - by)
    for (let p = from; p <= Math.min(place + by, this.shown - 1); p++)
      if (!this.frames.has(p)) {
        const view = await this.ask({ at: from, count: 2 * by + 1 })
        if (view) this.learn(view)
        return
      }
  }

  /** Asks the server for a part of the photos, or for the beginning of another choice. */
  async ask(part: Record<string, number>, choice = this.choice, placed = this.now()): Promise<View | null> {
    const query = new URLSearchParams(location.search)
    for (const [name, value] of Object.entries({ ...part, width: placed.width, window: placed.window }))
      query.set(name, String(value))
    query.set('in', String(this.number))
    query.delete(this.number === 1 ? 'from' : `from${this.number}`)
    query.delete(this.parameter)
    if (choice) query.set(this.parameter, choice)
    const answer = await fetch(`${this.address}?${query}`)
    if (!answer.ok) throw new Error(answer.statusText)
    return answer.json()
  }

  private now(): Placed {
    return this.placed ?? { width: this.element.clientWidth, window: innerWidth, height: 0 }
  }

  private learn(view: View) {
    for (const { box, ...frame } of view.frames) {
      this.frames.set(frame.place, frame)
      this.boxes.set(frame.place, box)
    }
  }

  /** Shows another choice or another width: what was there before is placed anew, or goes. */
  async turn(choice: string): Promise<View | null> {
    const mine = ++this.asked
    const placed = { width: this.element.clientWidth, window: innerWidth, height: 0 }
    const part = this.seen(ahead, placed)
    const view = await this.ask(part, choice, placed)
    if (!view || mine !== this.asked) return null
    if (view.mark !== this.element.dataset.mark) return view
    placed.height = view.height
    const byId = new Map([...this.links.values()].map((link) => [link.dataset.id, link]))
    this.frames.clear()
    this.boxes.clear()
    this.links.clear()
    this.covered = []
    this.placed = placed
    this.choice = view.choice
    this.shown = view.shown
    this.element.dataset.shown = String(view.shown)
    this.learn(view)
    for (const [place, frame] of this.frames) {
      const link = byId.get(frame.id)
      if (link) this.links.set(place, this.dress(link, frame))
    }
    const stays = new Set(this.links.values())
    for (const link of byId.values()) if (!stays.has(link)) link.remove()
    this.element.style.aspectRatio = `${placed.width} / ${Math.max(placed.height, 1)}`
    this.cover(part, view)
    this.draw()
    return view
  }

  /** Between which heights the block is seen, in the pixels of the placing, with some screens more on either side. */
  private seen(screens: number, placed = this.now()): Part {
    const scale = placed.width / this.element.clientWidth
    const { top } = this.element.getBoundingClientRect()
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
    return to < Math.min(bottom, this.now().height) ? to : undefined
  }

  /** Brings a photo into view and leaves the keyboard there: where one was when the viewer closes. */
  async show(place: number): Promise<void> {
    if (!this.link(place) && this.boxes.has(place)) {
      const top = this.element.getBoundingClientRect().top + scrollY + this.heightOf(place)
      window.scrollTo({ top: Math.max(0, top - innerHeight / 3) })
      await this.fill().catch(() => {})
    }
    const link = this.link(place)
    link?.focus({ preventScroll: true })
    link?.scrollIntoView({ block: 'nearest' })
  }

  /** Fetches what is seen and not known yet, and draws what is near. */
  async fill(): Promise<void> {
    if (this.filling) return
    this.filling = true
    try {
      for (let top = this.gap(this.seen(0.5)); top !== undefined; top = this.gap(this.seen(0.5))) {
        const mine = this.asked
        const part = { top, bottom: this.seen(ahead).bottom }
        const view = await this.ask(part)
        if (!view || mine !== this.asked) continue
        if (view.mark !== this.element.dataset.mark) break
        this.learn(view)
        this.cover(part, view)
      }
    } finally {
      this.filling = false
    }
    this.draw()
  }

  /** Photos near what is seen stand in the document, in their order; others do not. */
  draw() {
    const { top, bottom } = this.seen(kept)
    const wanted: number[] = []
    for (const [place, box] of this.boxes)
      if (box.y + box.height >= top && box.y <= bottom) wanted.push(place)
    wanted.sort((a, b) => a - b)
    const stays = new Set(wanted)
    for (const [place, link] of this.links)
      if (link.isConnected && this.boxes.has(place) && !stays.has(place) && link !== document.activeElement)
        link.remove()
    const now = this.seen(0.1)
    let room = atOnce
    let left = false
    let next: Element | null = null
    for (const place of wanted.reverse()) {
      const frame = this.frames.get(place)
      const box = this.boxes.get(place)
      if (!frame || !box) continue
      const inView = box.y + box.height >= now.top && box.y <= now.bottom
      if (!this.link(place) && !inView && room-- <= 0) {
        left = true
        continue
      }
      const link = this.links.get(place) ?? this.dress(make(), frame)
      this.links.set(place, link)
      this.stand(link, place)
      if (!link.isConnected || (next && link.nextElementSibling !== next))
        this.element.insertBefore(link, next)
      next = link
    }
    if (left && !this.drawing) {
      this.drawing = true
      requestAnimationFrame(() => {
        this.drawing = false
        this.draw()
      })
    }
  }

  private stand(link: HTMLAnchorElement, place: number) {
    const box = this.boxes.get(place)
    if (!box || this.stood.get(link) === box) return
    this.stood.set(link, box)
    const { width, height } = this.now()
    Object.assign(link.style, {
      left: `${(box.x / width) * 100}%`,
      top: `${(box.y / height) * 100}%`,
      width: `${(box.width / width) * 100}%`,
      height: `${(box.height / height) * 100}%`,
    })
    const picture = link.querySelector('img')
    const across = Math.ceil((box.width / width) * this.element.clientWidth)
    if (picture && picture.dataset.across !== String(across)) {
      picture.dataset.across = String(across)
      picture.sizes = `${across}px`
    }
  }

  private dress(link: HTMLAnchorElement, frame: Frame) {
    link.href = frame.href
    link.removeAttribute('id')
    const data = link.dataset
    data.place = String(frame.place)
    if (data.id === frame.id) return link
    Object.assign(data, { id: frame.id, w: frame.width, h: frame.height, title: frame.title })
    Object.assign(data, { caption: frame.caption, credit: frame.credit })
    const picture = link.querySelector('img')
    if (!picture) return link
    picture.className = frame.focus ?? ''
    picture.alt = frame.alt
    picture.width = frame.width
    picture.height = frame.height
    picture.srcset = frame.sources
    picture.src = frame.source
    return link
  }
}

function make() {
  const link = document.createElement('a')
  link.className = 'frame'
  const picture = document.createElement('img')
  picture.decoding = 'async'
  picture.loading = 'lazy'
  link.append(picture)
  return link
}

/** Reads a photo that came with the page. */
function read(link: HTMLAnchorElement, place: number): Frame {
  const { id = '', w, h, title = '', caption = '', credit = '' } = link.dataset
  const picture = link.querySelector('img')
  return {
    place,
    id,
    href: link.href,
    source: picture?.src ?? '',
    sources: picture?.srcset ?? '',
    width: Number(w),
    height: Number(h),
    title,
    caption,
    alt: picture?.alt ?? '',
    credit,
    focus: picture?.className ?? null,
  }
}
