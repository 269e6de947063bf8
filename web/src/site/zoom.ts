/** How many times larger than whole a photo is shown, and how far its middle stands from the stage's, CSS pixels. */
export type Zoom = { scale: number; x: number; y: number }
export type Size = { width: number; height: number }
export type Point = { x: number; y: number }

/** It stands whole in the middle of the stage. */
export const whole: Zoom = { scale: 1, x: 0, y: 0 }

/** However few pixels it has, it can be shown so many times larger. */
const least = 2

/** How many times larger it can be shown: until a pixel of its largest rendition is one of the page. */
export const most = (pixels: number, shown: number) => Math.max(least, shown > 0 ? pixels / shown : 0)

/** As a photo stands where it is moved no further than its edges reach those of the stage. */
export function within({ scale, x, y }: Zoom, photo: Size, stage: Size): Zoom {
  const clamped = (at: number, of: number, room: number) => {
    const free = Math.max(0, (of * scale - room) / 2)
    return Math.min(free, Math.max(-free, at))
  }
  return { scale, x: clamped(x, photo.width, stage.width), y: clamped(y, photo.height, stage.height) }
}

/** Larger or smaller about a point, which stays where it is as far as it can; its distance is from the stage's middle. */
export function about(zoom: Zoom, scale: number, point: Point, photo: Size, stage: Size): Zoom {
  const by = scale / zoom.scale
  return within(
    { scale, x: point.x - (point.x - zoom.x) * by, y: point.y - (point.y - zoom.y) * by },
    photo,
    stage,
  )
}
