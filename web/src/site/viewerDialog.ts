import { w } from '../words/site'
import { make } from './dom'
import { markVerb } from './favourites'
import { canMark } from './marks'
import { ViewerSteps } from './viewerSteps'
import type { Frame, Walk } from './walk'
import { Zooming } from './zooming'

/** A photo of a walk, open in the viewer. */
type Open = { walk: Walk; place: number; frame: Frame }

/** So many photos on either side are known before one comes to them. */
const beside = 20
/** So long each photo stands while they play, milliseconds. */
const pace = 4000

/** How large a photo is shown: as large as the window and its words leave room for. */
const sizes = (frame: Frame) =>
  `min(100vw, calc((100vh - 7rem) * ${(frame.width / frame.height).toFixed(4)}))`

/** Where a photo is saved from, by the address of its own page. */
function saveAddress(href: string) {
  const { pathname, searchParams } = new URL(href, location.href)
  return `${pathname}/save?in=${searchParams.get('in') ?? 1}`
}

/** How many pixels across its largest rendition has. */
const largestOf = (frame: Frame) =>
  Math.max(...frame.sources.split(',').map((source) => Number(/(\d+)w\s*$/.exec(source)?.[1] ?? 0)))

/** One photo over the whole window. It walks what the visitor narrowed to, has an address, and leaves the page as it was. */
export class ViewerDialog {
  private shown: Open | null = null
  /** It was opened from the page, which is one step back. */
  private opened = false
  private plays = false
  private playing = 0
  /** The photo that was told of last, and the one that stands on the stage. */
  private counted = ''
  private picture: HTMLImageElement | null = null
  private readonly stage = make('div', { className: 'viewer-stage' })
  private readonly title = make('h2')
  private readonly caption = make('p')
  private readonly facts = make('p', { className: 'facts' })
  private readonly credit = make('p', { className: 'credit' })
  private readonly words: HTMLElement
  private readonly ahead = make('div', { hidden: true })
  private readonly dialog: HTMLDialogElement
  private readonly steps: ViewerSteps
  private readonly zooming: Zooming
  private readonly mark: ReturnType<typeof markVerb> | undefined

  constructor(private readonly walks: readonly Walk[]) {
    if (walks.some((walk) => canMark(walk.element))) this.mark = markVerb(() => this.shown?.frame.id)
    const to = (by: number) => this.to(by)
    const close = () => this.close()
    this.zooming = new Zooming(this.stage, to, () => this.draw())
    this.steps = new ViewerSteps({
      onPlay: () => this.play(!this.plays),
      onLarger: () => this.zooming.turnRound(),
      onStep: to,
      onClose: close,
      mark: this.mark?.element,
    })
    const told = make('div', {}, this.title, this.caption, this.facts, this.credit)
    this.words = make('div', { className: 'viewer-words' }, told, this.steps.element)
    this.dialog = make('dialog', { className: 'viewer' }, this.stage, this.words, this.ahead)
    this.dialog.addEventListener('cancel', (e) => {
      e.preventDefault()
      close()
    })
    this.dialog.addEventListener('close', () => {
      if (this.shown) close()
    })
    this.dialog.addEventListener('keydown', (e) => this.key(e))
    this.dialog.addEventListener('click', (e) => {
      const beside = e.target instanceof Element && e.target.matches('.viewer, .viewer-stage')
      if (beside && !this.zooming.wasDragged && this.zooming.zoom.scale === 1) close()
    })
    window.addEventListener('popstate', () => this.follow())
  }

  open(walk: Walk, place: number) {
    const frame = walk.at(place)
    if (!frame) return
    this.opened = true
    // Back at the page one stands at the photo that was looked at last, not where one had scrolled to.
    history.scrollRestoration = 'manual'
    history.pushState({ viewer: true }, '', frame.href)
    this.show({ walk, place, frame })
  }

  private close() {
    if (this.opened) history.back()
  }

  /** Shows what the address says. */
  private follow() {
    const id = location.pathname.split('/photo/')[1]
    const number = Number(new URLSearchParams(location.search).get('in') ?? 1)
    const walk = this.walks.find((each) => each.number === number)
    const place = id ? walk?.find(id) : undefined
    const frame = place === undefined ? undefined : walk?.at(place)
    this.opened = frame !== undefined
    if (walk && place !== undefined && frame) this.show({ walk, place, frame })
    else this.leave()
  }

  private to(by: number) {
    this.play(false)
    void this.step(by)
  }

  private async step(by: number) {
    const { shown } = this
    if (!shown) return
    const { walk } = shown
    // Where the window changed meanwhile it may have another place, and those beside it are to be asked for again.
    const place = (walk.find(shown.frame.id) ?? shown.place) + by
    if (place < 0 || place >= walk.shown) return
    if (!walk.at(place)) await walk.near(place, beside).catch(() => {})
    const next = walk.at(place)
    if (!next || this.shown !== shown) return
    history.replaceState({ viewer: true }, '', next.href)
    this.show({ walk, place, frame: next })
  }

  private show(shown: Open) {
    const { walk, place, frame } = shown
    this.shown = shown
    const { hides } = walk.element.dataset
    const title = frame.title || w.untitled
    this.dialog.ariaLabel = `${w.viewer}: ${title}`
    this.title.textContent = title
    this.title.className = hides?.includes('title') ? 'unseen' : ''
    const told: [HTMLElement, string][] = [
      [this.caption, hides?.includes('caption') ? '' : frame.caption],
      [this.facts, frame.facts],
      [this.credit, frame.credit],
    ]
    for (const [line, says] of told) {
      line.textContent = says
      line.hidden = says === ''
    }
    // Each photo has a picture of its own: none shows the one before until it is there.
    this.picture = make('img', {
      alt: frame.alt || title,
      width: frame.width,
      height: frame.height,
      draggable: false,
    })
    this.stage.replaceChildren(this.picture)
    this.zooming.show(this.picture, largestOf(frame))
    this.draw()
    this.picture.srcset = frame.sources
    this.picture.src = frame.source
    if (!this.dialog.open) {
      document.body.append(this.dialog)
      this.dialog.showModal()
    }
    document.documentElement.classList.add('viewing')
    this.fetchAhead()
    void walk.near(place, beside).then(
      () => this.shown === shown && this.fetchAhead(),
      () => {},
    )
    this.count(frame.id)
    this.playOn()
  }

  /** Back on the page, at the photo that was looked at last. */
  private leave() {
    const { shown } = this
    this.shown = null
    this.counted = ''
    this.play(false)
    this.dialog.close()
    this.dialog.remove()
    document.documentElement.classList.remove('viewing')
    history.scrollRestoration = 'auto'
    if (shown) void shown.walk.show(shown.place)
  }

  /** What depends on how large it is shown, on what plays, and on where it stands. */
  private draw() {
    const { shown, picture } = this
    if (!shown || !picture) return
    const { scale, x, y } = this.zooming.zoom
    const { walk, place, frame } = shown
    this.stage.classList.toggle('larger', scale > 1)
    const wanted = scale > 1 ? `${largestOf(frame)}px` : sizes(frame)
    if (picture.sizes !== wanted) picture.sizes = wanted
    picture.style.transform = scale > 1 ? `translate(${x}px, ${y}px) scale(${scale})` : ''
    this.words.ariaLive = this.plays ? 'off' : 'polite'
    const save = walk.element.dataset.save === undefined || frame.kept ? undefined : saveAddress(frame.href)
    const { sold } = walk.element.dataset
    if (this.mark) {
      this.mark.element.hidden = !canMark(walk.element)
      this.mark.show()
    }
    this.steps.show({
      place,
      of: walk.shown,
      plays: this.plays,
      larger: scale > 1,
      save,
      buy: sold ? `/buy/${sold}/${frame.id}` : undefined,
      talk: frame.talk,
      href: frame.href,
    })
    this.playOn()
  }

  /** Neighbours are ready before they are asked for. */
  private fetchAhead() {
    const { shown } = this
    if (!shown) return
    const next = [shown.walk.at(shown.place - 1), shown.walk.at(shown.place + 1)].filter(
      (f) => f !== undefined,
    )
    this.ahead.replaceChildren(
      ...next.map((frame) => make('img', { alt: '', sizes: sizes(frame), srcset: frame.sources })),
    )
  }

  private play(plays: boolean) {
    if (this.plays === plays) return
    this.plays = plays
    this.draw()
  }

  /** While they play the next follows in a while, unless one looks at something closely. */
  private playOn() {
    clearTimeout(this.playing)
    const { shown } = this
    if (!this.plays || !shown || this.zooming.zoom.scale > 1) return
    if (shown.place >= shown.walk.shown - 1) this.play(false)
    else this.playing = window.setTimeout(() => void this.step(1), pace)
  }

  /** That somebody looked is counted, not who; a draft is looked at by staff. */
  private count(photo: string) {
    if (photo === this.counted || !this.shown?.walk.element.dataset.view?.startsWith('/site/')) return
    this.counted = photo
    navigator.sendBeacon(`/site/seen/${photo}`)
  }

  private key(e: KeyboardEvent) {
    const { shown } = this
    if (!shown || e.ctrlKey || e.metaKey || e.altKey) return
    const keys: Record<string, () => void> = {
      ArrowRight: () => this.to(1),
      ArrowLeft: () => this.to(-1),
      Home: () => this.to(-shown.place),
      End: () => this.to(shown.walk.shown - 1 - shown.place),
      '+': this.zooming.larger,
      '=': this.zooming.larger,
      '-': this.zooming.smaller,
      m: () => this.mark?.element.hidden || this.mark?.element.click(),
      // First it is whole again, then the viewer closes.
      Escape: () => (this.zooming.zoom.scale > 1 ? this.zooming.turnRound() : this.close()),
    }
    const act = keys[e.key]
    if (!act) return
    e.preventDefault()
    act()
  }
}
