import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// Photos of a block that some devices do not show: on the page, in its counts, in the viewer, with scripts off, and when the window changes.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})
const stand = (of: Page) => of.locator('a.frame').evaluateAll((all) => all.filter((a) => a.getClientRects().length > 0).map((a) => (a as HTMLElement).dataset.id ?? ''))
let all: string[]
/** What names the pictures of all in their addresses. */
let pictures: string[]

test('photos are left out on a phone by pressing them', async () => {
  await made.begin('On every device')
  await made.add('photos')
  await made.order.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /Regatta/ }).first().click()
  await expect(made.seen.locator('a.frame').first()).toBeVisible()
  all = await made.seen.locator('a.frame').evaluateAll((links) => links.map((a) => (a as HTMLElement).dataset.id ?? ''))
  expect(all.length).toBeGreaterThan(3)
  pictures = await made.seen.locator('a.frame img').evaluateAll((images) => images.map((i) => /[0-9a-f]{64}/.exec((i as HTMLImageElement).srcset)?.[0] ?? ''))
  await made.order.getByRole('button', { name: 'Left out on a device' }).click()
  await made.order.getByRole('button', { name: 'all of them', exact: true }).first().click()
  const picker = page.getByRole('dialog', { name: 'Which photos does a phone not show?' })
  await expect(picker.locator('li button')).toHaveCount(all.length)
  await noSeriousFinding(page)
  await picker.locator('li button').nth(0).click()
  await picker.locator('li button').nth(2).click()
  await expect(picker.locator('li button').nth(2)).toContainText('not on a phone')
  await page.keyboard.press('Escape')
  await expect(made.order.getByRole('button', { name: 'all of them but 2' })).toBeVisible()
  await made.publish()
})

test('a phone shows, counts and walks the others, and shows all when it becomes a desktop', async ({ browser }) => {
  const others = all.filter((_, n) => n !== 0 && n !== 2)
  const visitor = await browser.newPage({ viewport: { width: 390, height: 844 } })
  const fetched: string[] = []
  visitor.on('request', (r) => fetched.push(r.url()))
  await visitor.goto('/on-every-device', { waitUntil: 'networkidle' })
  expect(await stand(visitor)).toEqual(others)
  expect(pictures.map((p) => fetched.some((url) => url.includes(p)))).toEqual(all.map((_, n) => n !== 0 && n !== 2))
  await expect(visitor.locator('[data-showing]')).toHaveText(new RegExp(`^\\s*${others.length} photographs`), { useInnerText: true })
  await noSeriousFinding(visitor)
  await visitor.locator('a.frame').first().click()
  await expect(visitor.getByRole('dialog').getByText(`1 of ${others.length}`)).toBeVisible()
  await visitor.keyboard.press('ArrowRight')
  await expect(visitor.getByRole('dialog').getByText(`2 of ${others.length}`)).toBeVisible()
  expect(visitor.url()).toContain(others[1])

  // By its own address, with scripts off as well, it leads to those that are seen here.
  const plain = await browser.newPage({ viewport: { width: 390, height: 844 }, javaScriptEnabled: false })
  await plain.goto(visitor.url())
  await plain.getByRole('link', { name: 'Previous' }).click()
  await expect(plain).toHaveURL(new RegExp(others[0] ?? ''))
  await plain.goto('/on-every-device')
  expect(await stand(plain)).toEqual(others)
  await plain.close()

  // The viewer stays with its photo when the window becomes another device's, whose photos are others.
  const shown = await visitor.getByRole('dialog').getByRole('heading').innerText()
  await visitor.setViewportSize({ width: 1280, height: 800 })
  await expect.poll(async () => (await visitor.locator('.frames').getAttribute('data-shown')) ?? '').toBe(String(all.length))
  await expect(visitor.getByRole('dialog').getByRole('heading')).toHaveText(shown)
  await visitor.keyboard.press('ArrowLeft')
  await expect.poll(() => visitor.url()).toContain(all[all.indexOf(others[1] ?? '') - 1])
  await visitor.keyboard.press('Escape')
  await expect(visitor.getByRole('dialog')).toHaveCount(0)
  expect(await stand(visitor)).toEqual(all)
  await visitor.setViewportSize({ width: 390, height: 844 })
  await expect.poll(() => stand(visitor)).toEqual(others)
  await visitor.close()
})

test('slides and a strip have them on a phone no more than rows', async ({ browser }) => {
  const others = all.filter((_, n) => n !== 0 && n !== 2)
  for (const layout of ['slides', 'a strip']) {
    await made.choose('Layout', layout)
    await made.publish()
    const visitor = await browser.newPage({ viewport: { width: 390, height: 844 } })
    await visitor.goto('/on-every-device')
    await expect(visitor.locator('a.frame').first()).toBeVisible()
    expect(await visitor.locator('a.frame').evaluateAll((links) => links.map((a) => (a as HTMLElement).dataset.id))).toEqual(others)
    await visitor.setViewportSize({ width: 1280, height: 800 })
    await expect.poll(() => visitor.locator('a.frame').evaluateAll((links) => links.map((a) => (a as HTMLElement).dataset.id))).toEqual(all)
    await visitor.close()
  }
})
