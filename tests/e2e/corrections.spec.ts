import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser } from './signIn'

// Photos are corrected beside their originals: what one sees while doing so is what everybody gets.
let page: Page
oneBrowser((next) => {
  page = next
}, '/workroom/photos')

test.beforeEach(() => expect(page.locator('#frame-3 img')).toBeVisible())

const foot = () => page.getByRole('status').filter({ hasText: 'Undo' })
const size = async () => /([\d,]+) × ([\d,]+)/.exec((await page.getByText(/ × .* pixels/).textContent()) ?? '')?.slice(1).map((n) => Number(n.replace(',', '')))
const plate = async (id: string) => (await page.request.get(`/api/photos/${id}`)).json()

async function correctionOf(id: string) {
  return (await (await page.request.get(`/api/photos/${id}/correction`)).json()).correction
}

/** Opens a photo of the sheet to correct it. */
async function open(frame: number) {
  await page.keyboard.press('ArrowRight')
  for (let i = 0; i < frame; i++) await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Correct' })).toBeEnabled()
  const id = new URL(page.url()).searchParams.get('photo') ?? ''
  await page.keyboard.press('c')
  await expect(page.getByTestId('crop')).toBeVisible()
  return id
}

/** Waits until what was changed is written. */
async function written() {
  await expect(page.getByText('being written')).toBeVisible()
  await expect(page.getByText('being written')).toBeHidden()
}

/** Takes every correction of a photo back, so that the next test meets it as it came in. */
async function asItCame(id: string) {
  await page.evaluate(async (photo) => {
    const { forgery } = (await (await fetch('/api/session')).json()) as { forgery: string }
    await fetch('/api/corrections', {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'X-Jovitar-Forgery': forgery },
      body: JSON.stringify({ photos: [photo], reset: true }),
    })
  }, id)
}

test('a photo is turned, straightened along a drawn line and cropped by hand, and is so everywhere', async () => {
  const id = await open(1)
  const before = await plate(id)
  await page.keyboard.press('t')
  await expect(page.getByText('Turned once')).toBeVisible()
  expect(await size()).toEqual([before.height, before.width])
  await page.keyboard.press('h')
  const over = await page.getByTestId('horizon').boundingBox()
  if (!over) throw new Error('There is nothing to draw on.')
  // Drawn a little upwards to the right: 40 on 400 is 5.71 degrees.
  await page.mouse.move(over.x + 60, over.y + 300)
  await page.mouse.down()
  await page.mouse.move(over.x + 460, over.y + 260, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByText('straightened by 5.71° to the right')).toBeVisible()
  await written()
  const whole = await size()

  // A corner is pulled inwards, the frame moved with the arrows; the server keeps exactly what was seen.
  const corner = await page.locator('[data-handle="1,1"]').boundingBox()
  if (!corner) throw new Error('There is no handle.')
  await page.getByRole('button', { name: 'any shape' }).click()
  await page.mouse.move(corner.x + 14, corner.y + 14)
  await page.mouse.down()
  await page.mouse.move(corner.x - 60, corner.y - 120, { steps: 5 })
  await page.mouse.up()
  await page.getByTestId('crop').focus()
  await page.keyboard.press('ArrowRight')
  await written()
  const cropped = (await size()) ?? []
  expect(cropped[1]).toBeLessThan((whole?.[1] ?? 0) * 0.9)
  const kept = await correctionOf(id)
  const shown = await page.evaluate(() => {
    const box = document.querySelector('[data-testid=crop]')?.getBoundingClientRect()
    return box && box.width / box.height
  })
  expect(kept.isCropped).toBe(true)
  expect(Math.abs((shown ?? 0) - cropped[0]! / cropped[1]!)).toBeLessThan(0.01)

  // Straightened further it keeps what there is room for, as it is seen; straightened back, all that was chosen.
  await page.getByLabel('Straighten').fill('30')
  await written()
  const narrow = (await size()) ?? []
  expect(narrow[0]).toBeLessThan(cropped[0] ?? 0)
  await expect.poll(async () => [(await plate(id)).width, (await plate(id)).height]).toEqual(narrow)
  await page.getByLabel('Straighten').fill('5.7')
  await written()
  expect(await size()).toEqual(cropped)

  await page.getByRole('button', { name: '← Back' }).click()
  const after = await plate(id)
  expect([after.width, after.height]).toEqual(cropped)
  const picture = page.locator(`img[src*="${after.picture}"], img[srcset*="${after.picture}"]`).first()
  await expect(picture).toBeVisible()
  await expect.poll(() => picture.evaluate((i: HTMLImageElement) => i.naturalWidth)).toBeGreaterThan(0)
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => (await plate(id)).picture).toBe(before.picture)
})

test('what one sees while correcting is what the server makes', async () => {
  const id = await open(2)
  await page.getByLabel('Straighten').fill('3')
  await page.getByRole('button', { name: '5:4' }).click()
  await page.getByRole('button', { name: 'Light and colour' }).click()
  await page.getByLabel('Brightness').fill('30')
  await page.getByLabel('Contrast').fill('20')
  await page.getByRole('button', { name: 'black and white' }).click()
  await page.getByLabel('Red').fill('60')
  await written()
  await expect(page.getByText('Brighter by 30, more contrast by 20, black and white')).toBeVisible()
  const seen = await plate(id)
  const stage = await page.getByTestId('stage').boundingBox()
  if (!stage) throw new Error('There is no picture.')
  await page.waitForFunction(() => [...document.querySelectorAll('img')].every((i) => i.complete))
  const shot = (await page.screenshot()).toString('base64')
  // Both brought to 240 pixels: the grain of a photograph is not what is compared.
  const difference = await page.evaluate(
    async ({ shot, seen, stage }) => {
      const load = (src: string) =>
        new Promise<HTMLImageElement>((done, gone) => {
          const image = new Image()
          image.onload = () => done(image)
          image.onerror = gone
          image.src = src
        })
      const scale = Math.min((stage.width - 36) / seen.width, (stage.height - 36) / seen.height)
      const [wide, high] = [seen.width * scale, seen.height * scale]
      const [left, top] = [stage.x + (stage.width - wide) / 2, stage.y + (stage.height - high) / 2]
      const canvas = new OffscreenCanvas(240, Math.floor((240 * high) / wide))
      const context = canvas.getContext('2d', { willReadFrequently: true })
      if (!context) throw new Error('No canvas.')
      context.imageSmoothingQuality = 'high'
      const pixels = () => context.getImageData(2, 2, canvas.width - 4, canvas.height - 4).data
      context.drawImage(await load(`data:image/png;base64,${shot}`), left, top, wide, high, 0, 0, canvas.width, canvas.height)
      const one = pixels()
      const widest = Math.max(...seen.renditions.filter((r: number) => r <= 960))
      context.drawImage(await load(`/api/renditions/${seen.picture}/${widest}`), 0, 0, canvas.width, canvas.height)
      const other = pixels()
      return one.reduce((sum, value, i) => sum + Math.abs(value - (other[i] ?? 0)), 0) / one.length
    },
    { shot, seen, stage },
  )
  expect(difference).toBeLessThan(2)
  await asItCame(id)
})

test('what is changed goes on all in hand, or is copied onto the others, and is found by it', async () => {
  // None of them is a square by itself.
  await page.goto('/workroom/photos?shape=landscape')
  for (const n of [0, 1, 2]) await page.locator(`#frame-${n}`).click()
  await page.keyboard.press('c')
  await expect(page.getByText('1 of 3 in hand')).toBeVisible()
  const { photos } = await (await page.request.get('/api/hand')).json()
  await page.getByRole('button', { name: 'all 3 in hand' }).click()
  await page.getByRole('button', { name: '1:1' }).click()
  await written()
  await expect(foot()).toContainText('Corrected 3 photos.')
  const squares = await Promise.all(photos.map(plate))
  expect(squares.map((p) => p.width === p.height)).toEqual([true, true, true])

  await page.getByRole('button', { name: 'this photo' }).click()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByText('2 of 3 in hand')).toBeVisible()
  await page.getByRole('button', { name: 'Light and colour' }).click()
  await page.getByLabel('Contrast').fill('-40')
  // Copied at once, before the hand has rested: what was changed is written first.
  await page.getByRole('button', { name: 'Same on the other 2 in hand' }).click()
  await expect(foot()).toContainText('in the same way')
  expect((await Promise.all(photos.map(correctionOf))).map((c) => c.contrast)).toEqual([-40, -40, -40])
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => (await correctionOf(photos[0])).contrast).toBe(0)
  // Going on to another photo writes what was changed on this one.
  await page.getByLabel('Contrast').fill('-41')
  await page.getByRole('button', { name: '← previous' }).click()
  await expect(page.getByText('1 of 3 in hand')).toBeVisible()
  await expect.poll(async () => (await correctionOf(photos[1])).contrast).toBe(-41)
  // And so does leaving before the hand has rested.
  await page.getByLabel('Contrast').fill('-30')
  await page.goto('/workroom/photos?corrected=toned')
  await expect.poll(async () => (await correctionOf(photos[0])).contrast).toBe(-30)
  await page.reload()
  await expect(page.locator('#frame-0 img')).toBeVisible()
  await expect(page.locator('#frame-1 img')).toBeVisible()
  await expect(page.locator('#frame-2')).toBeHidden()
  await page.goto('/workroom/correct')
  await page.getByRole('button', { name: 'next →' }).click()
  await page.getByRole('button', { name: 'Same on the other 2 in hand' }).click()
  await expect(foot()).toContainText('in the same way')
  expect((await Promise.all(photos.map(correctionOf))).map((c) => c.contrast)).toEqual([-41, -41, -41])
  await page.getByRole('button', { name: 'all 3 in hand' }).click()
  await page.getByRole('button', { name: 'Take all of it back' }).click()
  await expect(foot()).toContainText('Took the corrections of 3 photos back.')
  expect((await Promise.all(photos.map(plate))).every((p) => p.picture.length === 64)).toBe(true)
})

test('prints on a scan are found, shown on it, and become photos of their own, upright', async () => {
  // Two photographs askew on a white glass.
  const scan = await page.evaluate(async () => {
    const { photos } = await (await fetch('/api/photos')).json()
    const glass = new OffscreenCanvas(1240, 1754)
    const context = glass.getContext('2d')
    if (!context) throw new Error('No canvas.')
    context.fillStyle = '#f4f2ee'
    context.fillRect(0, 0, glass.width, glass.height)
    for (const [n, [x, y, angle]] of [
      [500, 440, 6],
      [660, 1230, -4],
    ].entries()) {
      const image = await createImageBitmap(await (await fetch(`/api/renditions/${photos[n].picture}/480`)).blob())
      context.setTransform(1, 0, 0, 1, x ?? 0, y ?? 0)
      context.rotate(((angle ?? 0) * Math.PI) / 180)
      context.drawImage(image, -360, -240, 720, 480)
    }
    const bytes = await glass.convertToBlob({ type: 'image/jpeg', quality: 0.92 })
    const { forgery } = await (await fetch('/api/session')).json()
    const send = (address: string, body: BodyInit, type: string) =>
      fetch(address, { method: 'POST', headers: { 'X-Jovitar-Forgery': forgery, 'content-type': type }, body }).then((a) => a.json())
    const intake = await send('/api/intakes', '{}', 'application/json')
    return (await send(`/api/intakes/${intake.id}/files?name=glass.jpg`, bytes, 'application/octet-stream')).photo as string
  })
  await expect.poll(async () => (await plate(scan)).state).toBe('ready')
  await page.goto(`/workroom/correct?photo=${scan}`)
  await page.getByRole('button', { name: 'Look for prints on it' }).click()
  await expect(page.getByText('2 prints lie on the glass.')).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Print 2' }).click()
  await expect(page.getByRole('button', { name: 'Make it a photo' })).toBeVisible()
  await page.getByRole('button', { name: 'Print 2' }).click()
  await page.getByRole('button', { name: 'Make them 2 photos' }).click()
  await expect(page.getByText('1 of 2 in hand')).toBeVisible()
  await expect(page.getByText(/straightened by (5\.[89]|6(\.[012])?)\d?° to the left/i)).toBeVisible()
  const { photos } = await (await page.request.get('/api/hand')).json()
  for (const id of photos) {
    const made = await plate(id)
    expect(Math.abs(made.width - 714)).toBeLessThan(12)
    expect(Math.abs(made.height - 474)).toBeLessThan(12)
  }
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Nothing is in hand.')).toBeVisible()
  await page.evaluate(async (photo) => {
    const { forgery } = await (await fetch('/api/session')).json()
    await fetch('/api/bin', {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'X-Jovitar-Forgery': forgery },
      body: JSON.stringify({ photos: [photo] }),
    })
  }, scan)
})

test('the station can be read and used by everybody, and says so when there is nothing to correct', async () => {
  const id = await open(0)
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Light and colour' }).click()
  await page.getByRole('button', { name: 'black and white' }).click()
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'What stays in view' }).click()
  const stage = await page.getByTestId('stage').boundingBox()
  if (!stage) throw new Error('There is no picture.')
  await page.mouse.click(stage.x + stage.width / 2, stage.y + stage.height / 2)
  await expect(page.getByText('Chosen by hand')).toBeVisible()
  await written()
  const { focus } = await correctionOf(id)
  expect(Math.abs(focus.x - 0.5) + Math.abs(focus.y - 0.5)).toBeLessThan(0.02)
  await asItCame(id)
  await page.goto('/workroom/correct')
  await expect(page.getByText('Nothing is in hand.')).toBeVisible()
})
