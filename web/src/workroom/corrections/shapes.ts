import type { Api } from '../../api/client'
import { type Crop, largest, turnedSize } from './geometry'
import type { Correction } from './useCorrection'

type Plate = Api['CorrectionPlate']

/** The name of a shape to crop to, or any. */
export type ShapeName = NonNullable<Api['ShapeSaid']['shape']> | 'free'

/** The longer side over the shorter as the server has it; the photo's own where it is as taken, null where it is any. */
function longest(plate: Plate, name: ShapeName): number | null {
  const found = plate.shapes.find((s) => s.shape === name)
  if (!found) return null
  return found.ratio || Math.max(plate.width, plate.height) / Math.min(plate.width, plate.height)
}

/** How large what is kept is, pixels. */
export function keptSize({ crop, turns }: Correction, plate: Plate) {
  const turned = turnedSize(plate, turns)
  return { width: crop.width * turned.width, height: crop.height * turned.height }
}

/** Whether what is kept lies, rather than stands. */
export function isLying(correction: Correction, plate: Plate) {
  const { width, height } = keptSize(correction, plate)
  return width >= height
}

/** The shape that a crop has, where it is one of those with a name. */
export function shapeOf(correction: Correction, plate: Plate): ShapeName {
  if (!correction.isCropped) return 'asShot'
  const { width, height } = keptSize(correction, plate)
  const long = Math.max(width, height) / Math.min(width, height)
  return plate.shapes.find((s) => s.ratio && Math.abs(long - s.ratio) < 0.004)?.shape ?? 'free'
}

/** Width over height that a frame keeps while it is pulled; null where it may have any. */
export function keptRatio(correction: Correction, plate: Plate, name: ShapeName): number | null {
  const long = longest(plate, name)
  return long && (isLying(correction, plate) ? long : 1 / long)
}

/** The crop that a named shape begins with, as large as it goes: about the middle, or of a print within what was cut out. */
export function shapedCrop(correction: Correction, plate: Plate, name: ShapeName, lying: boolean): Crop {
  const turned = turnedSize(plate, correction.turns)
  const long = longest(plate, name) ?? 1
  const ratio = lying ? long : 1 / long
  if (!plate.isPart) return largest(turned, correction.angle, ratio)
  const { crop } = correction
  const { width, height } = keptSize(correction, plate)
  const wide = Math.min(width, height * ratio) / turned.width
  const high = Math.min(height, width / ratio) / turned.height
  return {
    x: crop.x + (crop.width - wide) / 2,
    y: crop.y + (crop.height - high) / 2,
    width: wide,
    height: high,
  }
}
