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
import { about, most, whole, within } from '../../web/src/site/zoom'
import { isBeneath, landing, steps, type TreeLine } from '../../web/src/workroom/categories/tree'

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

/** A tree written out, by chance. */
function anyTree(any: (from: number, to: number) => number): TreeLine[] {
  const lines: TreeLine[] = []
  const add = (parent: string | null, depth: number) => {
    for (let n = Math.floor(any(depth === 0 ? 1 : 0, 4 - depth)); n > 0; n--) {
      const id = `l${lines.length}`
      lines.push({ id, parent, depth })
      add(id, depth + 1)
    }
  }
  add(null, 0)
  return lines
}

/** The tree after a line was set down, as the server does it. */
function setDown(lines: readonly TreeLine[], id: string, to: { parent: string | null; place: number }): TreeLine[] {
  const children = (parent: string | null) => {
    const others = lines.filter((l) => l.parent === parent && l.id !== id).map((l) => l.id)
    if (parent === to.parent) others.splice(Math.min(to.place, others.length), 0, id)
    return others
  }
  const beneath = (parent: string | null, depth: number): TreeLine[] =>
    children(parent).flatMap((child) => [{ id: child, parent, depth }, ...beneath(child, depth + 1)])
  return beneath(null, 0)
}

test('wherever a line of a tree is dropped, it lands in the gap and at the depth that was shown, and no other line moves', () => {
  const any = chance(5)
  // Told at the end, all at once: each thing that is expected by itself takes its time.
  const wrong: string[] = []
  const stand = (lines: readonly TreeLine[]) => JSON.stringify(lines.map((l) => [l.id, l.depth, l.parent]))
  for (let round = 0; round < 2000; round++) {
    const lines = anyTree(any)
    const moved = lines[Math.floor(any(0, lines.length))]?.id ?? ''
    const rest = lines.filter((l) => !isBeneath(lines, l.id, moved))
    const gap = Math.floor(any(0, rest.length + 1))
    const to = landing(lines, moved, gap, Math.round(any(-2, 6)))
    const after = setDown(lines, moved, to)
    const others = after.filter((l) => !isBeneath(after, l.id, moved))
    const there = after.findIndex((l) => l.id === moved)
    if (after.length !== lines.length || stand(others) !== stand(rest) || there !== gap || after[there]?.depth !== to.depth)
      wrong.push(`${moved} of ${stand(lines)} to ${gap}: ${stand(after)}`)
  }
  expect(wrong).toEqual([])
})

test('arrows lead through every place of a tree and never out of it', () => {
  const any = chance(7)
  const wrong: string[] = []
  for (let round = 0; round < 500; round++) {
    let lines = anyTree(any)
    const moved = lines[Math.floor(any(0, lines.length))]?.id ?? ''
    for (let n = 0; n < 12; n++) {
      const key = ['ArrowUp', 'ArrowDown', 'ArrowLeft', 'ArrowRight'][Math.floor(any(0, 4))] ?? ''
      const to = steps(lines, moved, key)
      if (!to) continue
      const before = lines.find((l) => l.id === moved)
      lines = setDown(lines, moved, to)
      const now = lines.find((l) => l.id === moved)
      const deeper = (now?.depth ?? 0) - (before?.depth ?? 0)
      if (deeper !== (key === 'ArrowRight' ? 1 : key === 'ArrowLeft' ? -1 : 0)) wrong.push(`${key} took ${moved} ${deeper} deeper`)
    }
  }
  expect(wrong).toEqual([])
})

test('however a photo is made larger and moved, the point stays as far as the edges let it, and no edge comes inside the stage', () => {
  const any = chance(17)
  const wrong: string[] = []
  for (let round = 0; round < 1000; round++) {
    const stage = { width: any(200, 1600), height: any(200, 1200) }
    const fits = Math.min(stage.width / 3, stage.height / 2) * any(0.3, 1)
    const photo = { width: 3 * fits, height: 2 * fits }
    let zoom = whole
    for (let step = 0; step < 8; step++) {
      const point = { x: any(-stage.width / 2, stage.width / 2), y: any(-stage.height / 2, stage.height / 2) }
      const scale = any(1, most(2560, photo.width))
      const next = about(zoom, scale, point, photo, stage)
      for (const [at, size, of, before] of [
        ['x', photo.width, stage.width, zoom.x],
        ['y', photo.height, stage.height, zoom.y],
      ] as const) {
        const room = Math.max(0, (size * next.scale - of) / 2)
        if (Math.abs(next[at]) > room + 1e-6) wrong.push(`${at} ${next[at]} beyond ${room}`)
        // Unless an edge stopped it, the same place of the photo lies under the point.
        const there = (point[at] - before) / zoom.scale
        if (Math.abs(next[at]) < room - 1e-6 && Math.abs((point[at] - next[at]) / next.scale - there) > 1e-6) wrong.push(`${at} slipped`)
      }
      zoom = within({ ...next, x: next.x + any(-900, 900), y: next.y + any(-900, 900) }, photo, stage)
      if (Math.abs(zoom.x) > Math.max(0, (photo.width * zoom.scale - stage.width) / 2) + 1e-6) wrong.push('dragged out')
    }
  }
  expect(wrong).toEqual([])
  // Worked by hand: twice as large about a point 100 to the right, it moves 100 to the left.
  expect(about(whole, 2, { x: 100, y: 0 }, { width: 900, height: 600 }, { width: 1000, height: 700 })).toEqual({ scale: 2, x: -100, y: 0 })
  expect([most(2560, 1280), most(800, 900), most(0, 0)]).toEqual([2, 2, 2])
  expect(most(2560, 640)).toBe(4)
})
