import { about, most, type Point, whole, within, type Zoom } from './zoom'

/** A finger that goes so far, CSS pixels, means something. */
const swipe = 45
/** Two taps so close, CSS pixels and milliseconds, are one gesture. */
const tap = { far: 30, long: 320 }
/** A key makes it so many times larger. */
const byKey = 1.5

type Down = { from: Point; at: Point }
type Room = { photo: DOMRectReadOnly; stage: DOMRectReadOnly; most: number }

/**
 * A photo on a stage, whole or larger: by the wheel, by two fingers, by a double press and by keys, moved by dragging. At whole size a
 * finger that is drawn across leafs instead.
 */
export class Zooming {
  zoom: Zoom = whole
  /** What was pressed was dragged: it is no press. */
  wasDragged = false
  private picture: HTMLImageElement | null = null
  /** How many pixels across the photo's largest rendition has. */
  private pixels = 0
  private readonly downs = new Map<number, Down>()
  private began: { zoom: Zoom; apart: number; middle: Point } | null = null
  private tapped: { at: Point; when: number } | null = null
  /** More than one finger had to do with it: what the last of them does as it goes means nothing. */
  private many = false

  constructor(
    private readonly stage: HTMLElement,
    private readonly onLeaf: (by: number) => void,
    private readonly onChange: () => void,
  ) {
    stage.addEventListener(
      'wheel',
      (e) => {
        e.preventDefault()
        this.scale(Math.exp(-e.deltaY * (e.deltaMode === 1 ? 0.05 : 0.002)), { x: e.clientX, y: e.clientY })
      },
      { passive: false },
    )
    new ResizeObserver(() => this.change((zoom, room) => within(zoom, room.photo, room.stage))).observe(stage)
    stage.addEventListener('pointerdown', (e) => this.down(e))
    stage.addEventListener('pointermove', (e) => this.move(e))
    stage.addEventListener('pointerup', (e) => this.up(e))
    stage.addEventListener('pointercancel', (e) => {
      this.downs.delete(e.pointerId)
      this.begin()
    })
  }

  /** Another photo stands there, whole. */
  show(picture: HTMLImageElement, pixels: number) {
    this.picture = picture
    this.pixels = pixels
    this.zoom = whole
  }

  larger = () => this.scale(byKey)
  smaller = () => this.scale(1 / byKey)

  /** From whole to as large as it can be, and back. */
  turnRound(point?: Point) {
    this.scale(this.zoom.scale > 1 ? 0 : Number.POSITIVE_INFINITY, point)
  }

  private change(next: (zoom: Zoom, room: Room) => Zoom) {
    const { picture } = this
    if (!picture) return
    // As it is laid out, whatever it is drawn larger by.
    const photo = new DOMRectReadOnly(0, 0, picture.offsetWidth, picture.offsetHeight)
    const room = {
      photo,
      stage: this.stage.getBoundingClientRect(),
      most: most(this.pixels, picture.offsetWidth),
    }
    const wanted = next(this.zoom, room)
    const before = this.zoom
    this.zoom = wanted.scale <= 1 ? whole : wanted
    if (this.zoom !== before) this.onChange()
  }

  /** So many times larger, about a point of the window; about the middle where none is said. */
  private scale(by: number, point?: Point) {
    this.change((zoom, room) => {
      const { left, top, width, height } = room.stage
      const from = point ? { x: point.x - left - width / 2, y: point.y - top - height / 2 } : { x: 0, y: 0 }
      const to = Math.min(room.most, Math.max(1, zoom.scale * by))
      return about(zoom, to, from, room.photo, room.stage)
    })
  }

  private get middle(): Point {
    const all = [...this.downs.values()].map((d) => d.at)
    return {
      x: all.reduce((sum, p) => sum + p.x, 0) / all.length,
      y: all.reduce((sum, p) => sum + p.y, 0) / all.length,
    }
  }

  private get apart() {
    const [one, other] = [...this.downs.values()].map((d) => d.at)
    return one && other ? Math.hypot(one.x - other.x, one.y - other.y) : 0
  }

  private begin() {
    this.began = this.downs.size > 0 ? { zoom: this.zoom, apart: this.apart, middle: this.middle } : null
  }

  private down(e: PointerEvent) {
    if (e.button !== 0) return
    if (this.downs.size === 0) this.wasDragged = false
    this.many = this.downs.size > 0
    const at = { x: e.clientX, y: e.clientY }
    this.downs.set(e.pointerId, { from: at, at })
    this.begin()
  }

  private move(e: PointerEvent) {
    const down = this.downs.get(e.pointerId)
    const start = this.began
    if (!down || !start) return
    down.at = { x: e.clientX, y: e.clientY }
    if (Math.hypot(down.at.x - down.from.x, down.at.y - down.from.y) < 4) return
    this.wasDragged = true
    if (this.zoom.scale > 1 || this.downs.size > 1) this.stage.setPointerCapture(e.pointerId)
    const to = this.middle
    this.change((zoom, room) => {
      const { left, top, width, height } = room.stage
      const by = start.apart > 0 ? this.apart / start.apart : 1
      const larger = Math.min(room.most, Math.max(1, start.zoom.scale * by))
      if (larger === 1 && zoom.scale === 1) return zoom
      const from = { x: start.middle.x - left - width / 2, y: start.middle.y - top - height / 2 }
      const there = about(start.zoom, larger, from, room.photo, room.stage)
      return within(
        { ...there, x: there.x + to.x - start.middle.x, y: there.y + to.y - start.middle.y },
        room.photo,
        room.stage,
      )
    })
  }

  private up(e: PointerEvent) {
    const down = this.downs.get(e.pointerId)
    const alone = this.downs.size === 1
    this.downs.delete(e.pointerId)
    this.begin()
    if (!down || !alone || this.many) return
    const [across, along] = [e.clientX - down.from.x, e.clientY - down.from.y]
    const drawn = Math.abs(across) > swipe && Math.abs(across) > Math.abs(along) * 1.5
    if (drawn && this.zoom.scale === 1 && e.pointerType !== 'mouse') this.onLeaf(across < 0 ? 1 : -1)
    const before = this.tapped
    const isTap = !this.wasDragged && e.target === this.picture
    this.tapped = isTap ? { at: down.from, when: e.timeStamp } : null
    if (!isTap || !before || e.timeStamp - before.when > tap.long) return
    if (Math.hypot(before.at.x - down.from.x, before.at.y - down.from.y) > tap.far) return
    this.tapped = null
    this.turnRound(down.from)
  }
}
