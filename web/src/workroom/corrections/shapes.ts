import type { Api } from '../../api/client'
import { type Crop, largest, type Size, turnedSize } from './geometry'
import type { Correction } from './useCorrection'

/** Shapes to crop to, longer side over shorter; without a figure it is any, or the photo's own. */
export const shapes = {
  free: null,
  asShot: 0,
  square: 1,
  fiveFour: 5 / 4,
  fourThree: 4 / 3,
  paper: Math.SQRT2,
  threeTwo: 3 / 2,
  sixteenNine: 16 / 9,
} as const
export type ShapeName = keyof typeof shapes

/** The shape that a crop has, where it is one of those with a name. */
export function shapeOf(correction: Correction, original: Size): ShapeName {
  if (!correction.isCropped) return 'asShot'
  const turned = turnedSize(original, correction.turns)
  const ratio = (correction.crop.width * turned.width) / (correction.crop.height * turned.height)
  const found = Object.entries(shapes).find(([, r]) => r && Math.abs(Math.max(ratio, 1 / ratio) - r) < 0.004)
  return (found?.[0] as ShapeName | undefined) ?? 'free'
}

/** The crop that a named shape begins with, as large as it goes: about the middle, or of a print within what was cut out. */
export function shapedCrop(
  correction: Correction,
  plate: Api['CorrectionPlate'],
  name: ShapeName,
  lying: boolean,
): Crop {
  const turned = turnedSize(plate, correction.turns)
  const long = shapes[name] || turned.width / turned.height
  const ratio = long >= 1 === lying ? long : 1 / long
  if (!plate.isPart) return largest(turned, correction.angle, ratio)
  const { crop } = correction
  const [wide, high] = [crop.width * turned.width, crop.height * turned.height]
  const [width, height] = [
    Math.min(wide, high * ratio) / turned.width,
    Math.min(high, wide / ratio) / turned.height,
  ]
  return { x: crop.x + (crop.width - width) / 2, y: crop.y + (crop.height - height) / 2, width, height }
}
