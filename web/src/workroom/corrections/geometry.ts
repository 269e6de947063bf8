/** The size of a picture, pixels. */
export type Size = { width: number; height: number }

/** What is kept of a straightened picture, in parts of its frame: as large as the turned picture, about the same middle. */
export type Crop = { x: number; y: number; width: number; height: number }

export type Point = { x: number; y: number }

/** A step from the middle, rotated clockwise by degrees; y runs down. */
export function rotate({ x, y }: Point, degrees: number): Point {
  const [sin, cos] = [Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)]
  return { x: x * cos - y * sin, y: x * sin + y * cos }
}

export const turnedSize = (size: Size, turns: number): Size =>
  turns % 2 === 0 ? size : { width: size.height, height: size.width }

/** A place of the turned picture as a place of the upright original, and the other way round, in parts of their sizes. */
export function unturned(spot: Point, turns: number): Point {
  let at = spot
  for (let i = 0; i < turns; i++) at = { x: at.y, y: 1 - at.x }
  return at
}
export function turnedSpot(spot: Point, turns: number): Point {
  let at = spot
  for (let i = 0; i < turns; i++) at = { x: 1 - at.y, y: at.x }
  return at
}

/** What was cropped stays the same when the picture is turned clockwise. */
export const turnedCrop = (c: Crop): Crop => ({
  x: 1 - c.y - c.height,
  y: c.x,
  width: c.height,
  height: c.width,
})

/** How large the upright rectangle is that holds the rotated picture. */
export function bounds({ width, height }: Size, angle: number): Size {
  const [sin, cos] = [Math.abs(Math.sin((angle * Math.PI) / 180)), Math.cos((angle * Math.PI) / 180)]
  return { width: width * cos + height * sin, height: width * sin + height * cos }
}

/** The largest crop of a shape (width over height) about the middle; how the server has it, so that both show the same. */
export function largest(size: Size, angle: number, ratio = size.width / size.height): Crop {
  const [sin, cos] = [Math.abs(Math.sin((angle * Math.PI) / 180)), Math.cos((angle * Math.PI) / 180)]
  const high = Math.min(size.width / (ratio * cos + sin), size.height / (ratio * sin + cos))
  const [width, height] = [(high * ratio) / size.width, high / size.height]
  return { x: (1 - width) / 2, y: (1 - height) / 2, width, height }
}

/** Whether a crop shows nothing but picture. */
export function holds(c: Crop, size: Size, angle: number): boolean {
  const corners = [
    { x: c.x, y: c.y },
    { x: c.x + c.width, y: c.y },
    { x: c.x, y: c.y + c.height },
    { x: c.x + c.width, y: c.y + c.height },
  ]
  return corners.every((corner) => {
    const at = rotate({ x: (corner.x - 0.5) * size.width, y: (corner.y - 0.5) * size.height }, -angle)
    return Math.abs(at.x) <= size.width / 2 + 0.01 && Math.abs(at.y) <= size.height / 2 + 0.01
  })
}

const between = (a: Crop, b: Crop, t: number): Crop => ({
  x: a.x + (b.x - a.x) * t,
  y: a.y + (b.y - a.y) * t,
  width: a.width + (b.width - a.width) * t,
  height: a.height + (b.height - a.height) * t,
})

/** As near to a crop as the picture lets one come, from one that holds. */
export function toward(from: Crop, to: Crop, size: Size, angle: number): Crop {
  if (holds(to, size, angle)) return to
  let [good, bad] = [0, 1]
  for (let i = 0; i < 24; i++) {
    const middle = (good + bad) / 2
    if (holds(between(from, to, middle), size, angle)) good = middle
    else bad = middle
  }
  return between(from, to, good)
}

/** A crop that may reach beyond the picture, made smaller about its middle until it does not. */
export function shrunk(c: Crop, size: Size, angle: number): Crop {
  const point = { x: c.x + c.width / 2, y: c.y + c.height / 2, width: 0, height: 0 }
  if (!holds(point, size, angle))
    return largest(size, angle, (c.width * size.width) / (c.height * size.height))
  return toward(point, c, size, angle)
}

/** Moved by a step, each way as far as there is picture. */
export function moved(c: Crop, dx: number, dy: number, size: Size, angle: number): Crop {
  const both = { ...c, x: c.x + dx, y: c.y + dy }
  if (holds(both, size, angle)) return both
  const across = toward(c, { ...c, x: c.x + dx }, size, angle)
  return toward(across, { ...across, y: c.y + dy }, size, angle)
}

/** Which sides of a crop a handle moves: −1 the left or upper, 1 the right or lower, 0 none. */
export type Handle = { x: -1 | 0 | 1; y: -1 | 0 | 1 }

const least = 0.02

/** A handle pulled to a place; the other sides stay. With a ratio (width over height, pixels) the shape stays, too. */
export function pulled(
  c: Crop,
  handle: Handle,
  to: Point,
  size: Size,
  angle: number,
  ratio: number | null,
): Crop {
  const [right, lower] = [c.x + c.width, c.y + c.height]
  let width = handle.x === 0 ? c.width : Math.max(least, handle.x > 0 ? to.x - c.x : right - to.x)
  let height = handle.y === 0 ? c.height : Math.max(least, handle.y > 0 ? to.y - c.y : lower - to.y)
  if (ratio !== null) {
    const shape = (ratio * size.height) / size.width
    if (handle.x !== 0 && (handle.y === 0 || width / shape >= height)) height = width / shape
    else width = height * shape
  }
  // A side that is not pulled moves about its middle.
  const x = handle.x > 0 ? c.x : handle.x < 0 ? right - width : c.x + (c.width - width) / 2
  const y = handle.y > 0 ? c.y : handle.y < 0 ? lower - height : c.y + (c.height - height) / 2
  return toward(c, { x, y, width, height }, size, angle)
}

/** How far a drawn line is from level, or from plumb if that is nearer: degrees clockwise, −45 to 45. */
export function askew(from: Point, to: Point): number {
  const degrees = (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI
  return degrees - 90 * Math.round(degrees / 90)
}
