import { type BrowserContext, expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { signIn } from './signIn'
import { weighsAsSaid } from './weighing'

// Each layout is set by its sentence, stands on the page as it was set, and does what visitors expect of it.
test.describe.configure({ mode: 'serial' })

let staff: BrowserContext
let visitors: BrowserContext
let page: Page
let visitor: Page
let many: number
const order = () => page.getByRole('region', { name: 'Running order' })
const seen = () => page.frameLocator('iframe[title^="Preview"]')
const choose = (label: string, words: string) => order().getByRole('combobox', { name: label, exact: true }).selectOption({ label: words })
const say = async (label: string, number: number) => {
  await order().getByRole('textbox', { name: label, exact: true }).fill(String(number))
  await page.keyboard.press('Tab')
}

/** Opens what is set of the movement, if it is folded. */
async function movement() {
  const fold = order().getByRole('button', { name: /^Movement/ })
  if ((await fold.getAttribute('aria-expanded')) === 'false') await fold.click()
}

/** Publishes what is set, and opens it as visitors do. */
async function publish() {
  await page.getByRole('button', { name: /^Publish(?!ed)/ }).click()
  await expect(page.getByRole('button', { name: 'Published', exact: true })).toBeVisible()
  await visitor.goto('/layouts-in-turn')
}

test.beforeAll(async ({ browser }) => {
  staff = await browser.newContext()
  // These see things move; the others of these tests do not.
  visitors = await browser.newContext({ reducedMotion: 'no-preference' })
  page = await staff.newPage()
  visitor = await visitors.newPage()
  await signIn(page)
})
test.afterAll(async () => {
  await staff.close()
  await visitors.close()
})

test('a mosaic has no hole and crops nothing, and those chosen by hand stand large', async () => {
  await page.getByRole('link', { name: /^Pages/ }).click()
  await page.getByRole('textbox', { name: 'New page' }).fill('Layouts in turn')
  await page.keyboard.press('Enter')
  await order().getByRole('button', { name: 'photos', exact: true }).click()
  await order().getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /Regatta/ }).first().click()
  await choose('Layout', 'a mosaic')
  await say('Size of a photo, pixels', 120)
  await choose('Gap between photos', 'apart by so many pixels:')
  await say('Gap between photos, pixels', 0)
  await choose('Which photos stand large', 'those I choose')
  await order().getByRole('button', { name: 'Choose photos…' }).click()
  const picker = page.getByRole('dialog', { name: 'Which photos?' })
  await picker.locator('li button').nth(1).click()
  await page.keyboard.press('Escape')
  await expect(seen().locator('.frames .frame').first()).toBeVisible()
  await publish()
  const boxes = await visitor.locator('.frames .frame').evaluateAll((all) => all.map((f) => ({ id: (f as HTMLElement).dataset.id, shape: Number((f as HTMLElement).dataset.w) / Number((f as HTMLElement).dataset.h), ...JSON.parse(JSON.stringify(f.getBoundingClientRect())) })))
  many = boxes.length
  expect(many).toBeGreaterThan(3)
  const block = await visitor.locator('.frames').boundingBox()
  const area = boxes.reduce((sum, b) => sum + b.width * b.height, 0)
  expect(area / ((block?.width ?? 0) * (block?.height ?? 0))).toBeCloseTo(1, 2)
  for (const b of boxes) expect(b.width / b.height / b.shape).toBeCloseTo(1, 1)
})

test('a grid has as many side by side as was said, on each device, and its photos stand whole', async () => {
  await choose('Layout', 'a grid')
  await choose('How large photos are', 'with')
  await say('Photos side by side', 3)
  await order().getByRole('button', { name: 'Cells' }).click()
  await choose('Shape of a cell', 'of another shape')
  await say('Across', 5)
  await say('Down', 4)
  await choose('How photos stand in it', 'and holds its photo whole')
  await publish()
  await noSeriousFinding(page)
  const size = () => visitor.locator('.frames .frame').first().evaluate((f) => ({ share: f.clientWidth / (f.parentElement?.clientWidth ?? 1), shape: f.clientWidth / f.clientHeight }))
  expect((await size()).shape).toBeCloseTo(1.25, 1)
  expect((await size()).share).toBeCloseTo(1 / 3, 1)
  await visitor.setViewportSize({ width: 390, height: 844 })
  await visitor.reload()
  expect((await size()).share).toBeCloseTo(1 / 2, 1)
  await expect(visitor.locator('.frame img').first()).toHaveCSS('object-fit', 'contain')
  await visitor.setViewportSize({ width: 1280, height: 800 })
})

test('a list has words beside its photos, and rows that were set before are as they were', async () => {
  await choose('Layout', 'a list')
  await publish()
  const title = await visitor.locator('.frame[data-title]:not([data-title=""])').first()
  await expect(title.locator('.frame-words .one')).toHaveText((await title.getAttribute('data-title')) ?? 'none')
  const [picture, words] = [await title.locator('img').boundingBox(), await title.locator('.frame-words').boundingBox()]
  expect(words?.x).toBeGreaterThan((picture?.x ?? 0) + (picture?.width ?? 0))
  await noSeriousFinding(visitor)
  await choose('Layout', 'a grid')
  await expect(order().getByRole('textbox', { name: 'Photos side by side' })).toHaveValue('3')
})

test('a strip is moved along by arrows and keys, begins again, and stops where the viewer closed', async () => {
  await choose('Layout', 'a strip')
  await choose('Height of the strip', 'half the window high')
  await movement()
  await choose('After the last photo', 'it begins again')
  await publish()
  const strip = visitor.locator('.strip')
  await expect(strip.locator('.frame')).toHaveCount(many)
  await expect(strip.locator('.frame').first()).toHaveCSS('height', '400px')
  const first = () => strip.evaluate((s) => [...s.children].filter((c) => c.getBoundingClientRect().left >= -2).map((c) => (c as HTMLElement).dataset.place)[0])
  expect(await first()).toBe('0')
  await visitor.getByRole('button', { name: 'Next photo' }).click()
  await expect.poll(first).not.toBe('0')
  // Once round: behind the last photo the first comes again.
  const places = new Set<string | undefined>()
  for (let i = 0; i < many * 2 && places.size < many; i++) {
    await visitor.getByRole('button', { name: 'Next photo' }).click()
    await visitor.waitForTimeout(600)
    for (const place of await strip.evaluate((s) => [...s.children].filter((c) => c.getBoundingClientRect().left < innerWidth && c.getBoundingClientRect().right > 0).map((c) => (c as HTMLElement).dataset.place))) places.add(place)
  }
  expect(places.size).toBe(many)
  await expect(visitor.getByRole('button', { name: 'Next photo' })).toBeEnabled()
  await strip.locator('.frame').nth(1).click()
  const viewer = visitor.getByRole('dialog')
  await expect(viewer).toBeVisible()
  await visitor.keyboard.press('ArrowRight')
  const at = Number((await viewer.locator('.count').textContent())?.split(' ')[0]) - 1
  await visitor.keyboard.press('Escape')
  await expect(strip.locator(`.frame[data-place="${at}"]`)).toBeFocused()
  await expect(strip.locator(`.frame[data-place="${at}"]`)).toBeInViewport()
  await noSeriousFinding(visitor)
})

test('what moves by itself stops when it is touched and never moves where less motion is asked for', async ({ browser }) => {
  await choose('Pace', 'quickly')
  await publish()
  const left = () => visitor.locator('.strip').evaluate((s) => s.scrollLeft)
  // While somebody points at it, it waits.
  await visitor.mouse.move(4, 4)
  const from = await left()
  await expect.poll(async () => (await left()) !== from).toBe(true)
  await visitor.getByRole('button', { name: 'Stop' }).click()
  await expect(visitor.getByRole('button', { name: 'Let it move on' })).toBeVisible()
  const stopped = await left()
  await visitor.waitForTimeout(500)
  expect(await left()).toBe(stopped)
  await visitor.getByRole('button', { name: 'Let it move on' }).click()
  await expect.poll(async () => (await left()) !== stopped).toBe(true)
  await visitor.locator('.strip').focus()
  await expect(visitor.getByRole('button', { name: 'Let it move on' })).toBeVisible()
  const calm = await browser.newContext({ reducedMotion: 'reduce' })
  const reader = await calm.newPage()
  await reader.goto('/layouts-in-turn')
  await expect(reader.getByRole('button', { name: 'Next photo' })).toBeVisible()
  await expect(reader.getByRole('button', { name: 'Stop' })).toHaveCount(0)
  await reader.waitForTimeout(500)
  expect(await reader.locator('.strip').evaluate((s) => s.scrollLeft)).toBe(0)
  await calm.close()
})

for (const turn of ['that fade', 'that slide along', 'that come nearer'] as const)
  test(`slides ${turn} show one photo at a time, by arrows and by keys`, async () => {
    await choose('Layout', 'slides')
    await choose('How one gives way to the next', turn)
    await choose('Shape of the frame', '3 to 2')
    await publish()
    const slides = visitor.locator('.slides')
    await expect(slides).toHaveCSS('aspect-ratio', '1.5 / 1')
    const shown = () => slides.evaluate((s) => {
      const box = s.getBoundingClientRect()
      return [...s.children].filter((c) => {
        const each = c.getBoundingClientRect()
        return getComputedStyle(c).visibility === 'visible' && each.width > 0 && Math.abs(each.left - box.left) < 2
      }).map((c) => (c as HTMLElement).dataset.place).join()
    })
    await expect.poll(shown).toBe('0')
    await expect(visitor.getByText(`1 of ${many}`)).toBeVisible()
    await expect(visitor.getByRole('button', { name: 'Previous photo' })).toBeDisabled()
    await visitor.getByRole('button', { name: 'Next photo' }).click()
    await expect.poll(shown).toBe('1')
    await slides.focus()
    for (let i = 2; i < many; i++) {
      await visitor.keyboard.press('ArrowRight')
      await expect(visitor.getByText(`${i + 1} of ${many}`)).toBeVisible()
    }
    await expect.poll(shown).toBe(String(many - 1))
    await expect(visitor.getByText(`${many} of ${many}`)).toBeVisible()
    await expect(visitor.getByRole('button', { name: 'Next photo' })).toBeDisabled()
    await noSeriousFinding(visitor)
    // Pressed, the one that is shown opens; closed, it is shown still, or the one that one had leafed to.
    await slides.locator(`.frame[data-place="${many - 1}"]`).click()
    await visitor.keyboard.press('ArrowLeft')
    await expect(visitor.getByRole('dialog').getByText(`${many - 1} of ${many}`)).toBeVisible()
    await visitor.keyboard.press('Escape')
    await expect.poll(shown).toBe(String(many - 2))
  })

test('slides begin again, back from the first to the last, and come in another order on every round', async () => {
  await choose('How one gives way to the next', 'that fade')
  await movement()
  await choose('After the last photo', 'it begins again')
  await choose('Order of a round', 'in another order every time')
  await publish()
  const shown = () => visitor.locator('.slides .frame.on').getAttribute('data-place')
  const next = visitor.getByRole('button', { name: 'Next photo' })
  await visitor.getByRole('button', { name: 'Previous photo' }).click()
  await expect(visitor.getByText(`${many} of ${many}`)).toBeVisible()
  const rounds: (string | null)[][] = [[], []]
  for (const round of rounds)
    for (let i = 0; i < many; i++) {
      await next.click()
      await expect(visitor.getByText(`${i + 1} of ${many}`)).toBeVisible()
      round.push(await shown())
    }
  const all = Array.from({ length: many }, (_, i) => String(i))
  for (const round of rounds) expect([...round].sort((a, b) => Number(a) - Number(b))).toEqual(all)
  expect(rounds[0]).not.toEqual(rounds[1])
})

test('a strip goes back from its first photo to its last, and a round later its order is another', async () => {
  await choose('Layout', 'a strip')
  await choose('Height of the strip', 'half the window high')
  await movement()
  await choose('Pace', 'not at all')
  await choose('After the last photo', 'it begins again')
  await choose('Order of a round', 'in another order every time')
  await publish()
  const strip = visitor.locator('.strip')
  const inView = () => strip.evaluate((s) => [...s.children].filter((c) => c.getBoundingClientRect().left < innerWidth && c.getBoundingClientRect().right > 0).map((c) => Number((c as HTMLElement).dataset.place)))
  const order = () => strip.evaluate((s) => [...s.children].map((c) => (c as HTMLElement).dataset.place).join())
  /** It stands still: what is pressed before goes on from where it is, not from where it goes. */
  const atRest = () =>
    strip.evaluate(
      (s) =>
        new Promise<void>((still) => {
          const look = (last: number) => setTimeout(() => (s.scrollLeft === last ? still() : look(s.scrollLeft)), 200)
          look(Number.NaN)
        }),
    )
  await visitor.getByRole('button', { name: 'Previous photo' }).click()
  await expect.poll(inView).toContain(many - 1)
  await atRest()
  // Pressed on and on it never stands still, and no photo is lost or there twice.
  const rotations = new Set(Array.from({ length: many }, (_, from) => Array.from({ length: many }, (_, i) => (from + i) % many).join()))
  expect(rotations.has(await order())).toBe(true)
  const next = visitor.getByRole('button', { name: 'Next photo' })
  for (let i = 0; i < many * 3 && rotations.has(await order()); i++) {
    const before = await inView()
    await next.click()
    await expect.poll(inView).not.toEqual(before)
    await atRest()
  }
  expect(rotations.has(await order())).toBe(false)
  expect((await order()).split(',').map(Number).sort((a, b) => a - b)).toEqual(Array.from({ length: many }, (_, i) => i))
})

test('a strip too short to be turned round leaps from its end to its beginning', async () => {
  await order().getByRole('combobox', { name: 'How many' }).selectOption({ label: 'at most' })
  await say('Largest number', 2)
  await choose('Gap between photos', 'apart by so many pixels:')
  await say('Gap between photos, pixels', 4)
  await publish()
  const strip = visitor.locator('.strip')
  await expect(strip.locator('.frame')).toHaveCount(2)
  const left = () => strip.evaluate((s) => Math.round(s.scrollLeft))
  const end = await strip.evaluate((s) => s.scrollWidth - s.clientWidth)
  expect(end).toBeGreaterThan(1)
  await strip.evaluate((s) => s.scrollTo({ left: s.scrollWidth, behavior: 'instant' }))
  await visitor.getByRole('button', { name: 'Next photo' }).click()
  await expect.poll(left).toBe(0)
  await visitor.getByRole('button', { name: 'Previous photo' }).click()
  await expect.poll(left).toBeGreaterThan(0)
  await order().getByRole('combobox', { name: 'How many' }).selectOption({ label: 'all of them' })
  await choose('Layout', 'slides')
  await publish()
})

test('with scripts off a strip and slides are rows that one scrolls, and their photos have pages', async ({ browser }) => {
  const plain = await browser.newContext({ javaScriptEnabled: false })
  const reader = await plain.newPage()
  await reader.goto('/layouts-in-turn')
  await expect(reader.locator('.slides .frame')).toHaveCount(many)
  await expect(reader.locator('.slides')).toHaveCSS('overflow-x', 'auto')
  await reader.locator('.slides .frame').first().click()
  await expect(reader).toHaveURL(/\/layouts-in-turn\/photo\//)
  await plain.close()
})

test('a page becomes a post of a day, and readers of the feed get it', async () => {
  await page.getByRole('button', { name: 'About the page' }).click()
  await page.getByRole('combobox', { name: 'Page or post' }).selectOption({ label: 'a post of' })
  await page.getByLabel('Day of the post').fill('2026-06-14')
  await expect(seen().locator('time')).toHaveText('14 June 2026')
  await publish()
  await expect(visitor.locator('h1 + .posted time')).toHaveText('14 June 2026')
  const feed = async () => (await visitor.request.get('/feed.xml')).text()
  expect(await feed()).toContain('Layouts in turn')
  await page.getByRole('combobox', { name: 'Where it is listed' }).selectOption({ label: 'It stands in no list: visitors find it by its address' })
  await publish()
  expect(await feed()).not.toContain('Layouts in turn')
  await noSeriousFinding(page)
})

test('what a page is said to weigh is what a browser fetches, on a phone, a tablet and a desktop', async ({ browser }) => {
  test.slow()
  for (const address of ['layouts-in-turn', 'regatta']) await weighsAsSaid(browser, page, address, many)
  await page.getByRole('button', { name: /First screen on a phone/ }).click()
  await expect(page.getByRole('rowheader', { name: 'On a desktop' })).toBeVisible()
  await noSeriousFinding(page)
})
