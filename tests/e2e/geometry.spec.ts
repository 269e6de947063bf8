import { expect, test } from '@playwright/test'
import {
  askew,
  bounds,
  type Crop,
  holds,
  largest,
  moved,
  pulled,
  rotate,
  shrunk,
  turnedCrop,
  turnedSpot,
  unturned,
} from '../../web/src/workroom/corrections/geometry'

// What the browser must know of the recipe's geometry to show it while one drags; the server has the last word. No page is opened.

/** Numbers by chance, the same every time (mulberry32, public domain). */
function chance(seed: number) {
  let state = seed
  return (from: number, to: number) => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return from + ((t ^ (t >>> 14)) >>> 0) * (1 / 4294967296) * (to - from)
  }
}

const size = { width: 600, height: 400 }
const handles = [-1, 0, 1].flatMap((x) => [-1, 0, 1].map((y) => ({ x, y }) as { x: -1 | 0 | 1; y: -1 | 0 | 1 })).filter((h) => h.x !== 0 || h.y !== 0)

test('however a frame is pulled, moved or straightened, it shows nothing but picture', () => {
  const any = chance(11)
  const wrong: string[] = []
  const check = (good: boolean, what: string) => {
    if (!good) wrong.push(what)
  }
  for (let round = 0; round < 1000; round++) {
    const angle = any(-45, 45)
    const ratio = any(0, 1) < 0.5 ? null : any(0.5, 2)
    let crop: Crop = largest(size, angle, ratio ?? 1.3)
    check(holds(crop, size, angle), `largest at ${angle}`)
    for (let step = 0; step < 6; step++) {
      const handle = handles[Math.floor(any(0, handles.length))] ?? { x: 1, y: 1 }
      crop = any(0, 1) < 0.5 ? pulled(crop, handle, { x: any(-0.5, 1.5), y: any(-0.5, 1.5) }, size, angle, ratio) : moved(crop, any(-1, 1), any(-1, 1), size, angle)
      check(holds(crop, size, angle), `${JSON.stringify(crop)} at ${angle}`)
      const shape = (crop.width * size.width) / (crop.height * size.height)
      check(ratio === null || Math.abs(shape - ratio) < 0.001, `${shape} for ${ratio}`)
    }
    const other = any(-45, 45)
    check(holds(shrunk(crop, size, other), size, other), `shrunk at ${other}`)
  }
  expect(wrong).toEqual([])
})

test('a side that is not pulled stays where it is', () => {
  const crop = { x: 0.3, y: 0.3, width: 0.3, height: 0.3 }
  const wider = pulled(crop, { x: 1, y: 0 }, { x: 0.8, y: 0 }, size, 0, null)
  expect(wider).toEqual({ x: 0.3, y: 0.3, width: 0.5, height: 0.3 })
  const corner = pulled(crop, { x: -1, y: -1 }, { x: 0.1, y: 0.2 }, size, 0, null)
  expect(corner.x + corner.width).toBeCloseTo(0.6, 9)
  expect(corner.y + corner.height).toBeCloseTo(0.6, 9)
  // Beyond the edge it stops there, along the way it was pulled.
  expect(pulled(crop, { x: 1, y: 0 }, { x: 3, y: 0 }, size, 0, null).width).toBeCloseTo(0.7, 4)
})

test('what lies on a place goes along with every turn, and back', () => {
  // Worked by hand: the middle of the upper edge comes to stand at the middle of the right one.
  expect(turnedSpot({ x: 0.5, y: 0 }, 1)).toEqual({ x: 1, y: 0.5 })
  const any = chance(5)
  for (let turns = 0; turns < 4; turns++) {
    const spot = { x: any(0, 1), y: any(0, 1) }
    const back = unturned(turnedSpot(spot, turns), turns)
    expect(back.x).toBeCloseTo(spot.x, 9)
    expect(back.y).toBeCloseTo(spot.y, 9)
  }
  const crop = { x: 0.1, y: 0.2, width: 0.3, height: 0.4 }
  const around = turnedCrop(turnedCrop(turnedCrop(turnedCrop(crop))))
  for (const side of ['x', 'y', 'width', 'height'] as const) expect(around[side]).toBeCloseTo(crop[side], 9)
})

test('a drawn line says how far it is from level or from plumb', () => {
  expect(askew({ x: 0, y: 0 }, { x: 100, y: 10 })).toBeCloseTo(5.71, 2)
  expect(askew({ x: 100, y: 10 }, { x: 0, y: 0 })).toBeCloseTo(5.71, 2)
  expect(askew({ x: 0, y: 0 }, { x: 10, y: -100 })).toBeCloseTo(5.71, 2)
  expect(askew({ x: 0, y: 0 }, { x: -10, y: -100 })).toBeCloseTo(-5.71, 2)
  expect(rotate({ x: 1, y: 0 }, 90).y).toBeCloseTo(1, 9)
  expect(bounds(size, 0)).toEqual(size)
  expect(bounds(size, 30).width).toBeCloseTo(600 * Math.cos(Math.PI / 6) + 200, 6)
})
