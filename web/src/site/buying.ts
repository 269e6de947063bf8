/** A part of a picture: shares of its sides, from the upper left corner. */
type Part = { x: number; y: number; wide: number; high: number }

/** Less than this is not worth moving. */
const worth = 0.005

/** Of what hangs on a wall, millimetres. */
const smallest = 250

const partOf = (text: string): Part => {
  const [x = 0, y = 0, wide = 1, high = 1] = text.split(' ').map(Number)
  return { x, y, wide, high }
}

/** Shows what is cut off for the option that is chosen, or the white that is left instead, lets its buyer move that, and shows it on a wall to scale. */
export function enhanceBuying(root: HTMLElement) {
  const picture = root.querySelector<HTMLImageElement>('.buying-view > img')
  const away = root.querySelector<SVGSVGElement>('.away')
  const place = root.querySelector<HTMLElement>('.buying-move')
  const range = root.querySelector<HTMLInputElement>('#at')
  const wall = root.querySelector<HTMLElement>('.wall')
  const print = root.querySelector<SVGSVGElement>('.wall-print')
  const view = root.querySelector<HTMLElement>('[data-buying-view]')
  const form = root.querySelector<HTMLFormElement>('#buy')
  if (!(picture && away && place && range && wall && print && view && form)) return
  // As it is corrected, pixels: not as large as it stands here.
  const [w, h] = ['width', 'height'].map((side) => Number(picture.getAttribute(side))) as [number, number]

  const fits = root.querySelector<HTMLElement>('[data-fits]')
  const paper = print.querySelector('rect')

  const chosen = () => form.querySelector<HTMLInputElement>('[name=option]:checked')
  let part: Part | undefined
  let whole = false

  /** What is cut off, across and down. */
  const spare = (p: Part) => ({ x: 1 - p.wide, y: 1 - p.high })
  const canMove = (p: Part | undefined) => p !== undefined && Math.max(spare(p).x, spare(p).y) > worth

  const choose = () => {
    const { crop, whole: all } = chosen()?.dataset ?? {}
    // What is not cut off anyway is not asked about.
    if (fits) fits.hidden = !all
    whole = !!all && !!fits?.querySelector('[value=whole]:checked')
    const shown = whole ? all : crop
    part = shown ? partOf(shown) : undefined
    place.hidden = range.disabled = whole || !canMove(part)
    // Who does not touch it leaves it to the photo's own middle.
    range.removeAttribute('name')
    if (part && canMove(part)) {
      const room = spare(part)
      range.value = String(Math.round((room.x > room.y ? part.x / room.x : part.y / room.y) * 100))
    }
    draw()
  }

  const draw = () => {
    const path = away.querySelector('path')
    view.classList.toggle('moves', !whole && canMove(part))
    view.classList.toggle('whole', whole)
    if (part) view.style.setProperty('--whole', String(1 / Math.max(part.wide, part.high)))
    if (part) {
      const [x, y, wide, high] = [part.x * w, part.y * h, part.wide * w, part.high * h]
      path?.setAttribute('d', `M0 0H${w}V${h}H0ZM${x} ${y}h${wide}v${high}h${-wide}Z`)
      away.style.display = ''
    } else away.style.display = 'none'
    const area = chosen()?.dataset.area?.split(' ').map(Number)
    const [across = 0, down = 0, edge = 0] = area ?? []
    // What is smaller is held in a hand.
    wall.hidden = !part || Math.max(across, down) < smallest
    if (wall.hidden || !part) return
    // What goes round the edges of a wrap is not seen from the front.
    const [roundX, roundY] = [
      (edge / (across + 2 * edge)) * part.wide,
      (edge / (down + 2 * edge)) * part.high,
    ]
    print.setAttribute('x', String(2200 - across / 2))
    print.setAttribute('y', String(Math.max(60, 900 - down / 2)))
    print.setAttribute('width', String(across))
    print.setAttribute('height', String(down))
    const seen = {
      x: (part.x + roundX) * w,
      y: (part.y + roundY) * h,
      width: (part.wide - 2 * roundX) * w,
      height: (part.high - 2 * roundY) * h,
    }
    print.setAttribute('viewBox', Object.values(seen).join(' '))
    for (const [side, value] of Object.entries(seen)) paper?.setAttribute(side, String(value))
  }

  /** @param at 0 for the left or the upper end, 1 for the other. */
  const move = (at: number) => {
    if (!part) return
    const room = spare(part)
    part = { ...part, x: at * room.x, y: at * room.y }
    range.name = 'at'
    range.value = String(Math.round(at * 100))
    draw()
  }

  range.addEventListener('input', () => move(Number(range.value) / 100))
  view.addEventListener('pointerdown', (down) => {
    if (whole || !part || !canMove(part)) return
    const room = spare(part)
    const box = picture.getBoundingClientRect()
    const sideways = room.x > room.y
    const free = sideways ? room.x * box.width : room.y * box.height
    if (free < 1) return
    const from = Number(range.value) / 100
    down.preventDefault()
    view.setPointerCapture(down.pointerId)
    const onMove = (e: PointerEvent) => {
      const by = sideways ? e.clientX - down.clientX : e.clientY - down.clientY
      move(Math.min(1, Math.max(0, from + by / free)))
    }
    const stop = () => {
      view.removeEventListener('pointermove', onMove)
      view.removeEventListener('pointerup', stop)
      view.removeEventListener('pointercancel', stop)
    }
    view.addEventListener('pointermove', onMove)
    view.addEventListener('pointerup', stop)
    view.addEventListener('pointercancel', stop)
  })
  root.addEventListener('change', (e) => {
    if (e.target instanceof HTMLInputElement && (e.target.name === 'option' || e.target.name === 'fit'))
      choose()
  })
  choose()
}
