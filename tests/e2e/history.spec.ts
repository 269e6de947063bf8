import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { signIn } from './signIn'

test.beforeEach(async ({ page }) => signIn(page))

async function toHistory(page: Page) {
  await page.getByRole('link', { name: /^Desk/ }).click()
  await page.getByRole('link', { name: 'History' }).click()
}

test('what was done is read in words and taken back after a reload, by whoever may edit', async ({ page }) => {
  await page.getByRole('link', { name: /^Photos/ }).click()
  await page.locator('#frame-0').click()
  await page.keyboard.press('t')
  await page.getByRole('combobox', { name: 'Tag to add' }).fill('By mistake')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Tagged 1 photo “By mistake”.')).toBeVisible()
  await page.reload()
  await toHistory(page)
  const line = page.getByRole('listitem').filter({ hasText: /\dTagged 1 photo “By mistake”/ })
  await expect(line).toContainText('Odile Brandt')
  await noSeriousFinding(page)
  await line.getByRole('button', { name: /^Take back/ }).click()
  await expect(line).toContainText('taken back')
  const tags = await (await page.request.get('/api/tags?typed=mistake')).json()
  expect(tags.tags.map((t: { photos: number }) => t.photos)).toEqual([])
  // To have taken something back is an act like any other.
  await page.getByRole('button', { name: /^Take back: Took back/ }).first().click()
  await expect.poll(async () => (await (await page.request.get('/api/tags?typed=mistake')).json()).tags[0]?.photos).toBe(1)
})

test('an album goes to the bin with its page and comes back with both, in its order', async ({ page }) => {
  await page.getByRole('link', { name: /^Albums/ }).click()
  await page.getByRole('link', { name: /Regatta/ }).first().click()
  await expect(page.locator('#frame-11 img')).toBeVisible()
  const order = () => page.locator('[data-open]').allInnerTexts()
  const before = await order()
  const album = page.url()
  await page.getByRole('button', { name: 'Remove album' }).click()
  await expect(page.getByText('is in the bin, and a page that shows nothing else with it.', { exact: false })).toBeVisible()
  expect((await page.request.get('/regatta')).status()).toBe(404)
  await page.getByRole('link', { name: /^Photos/ }).click()
  await page.getByRole('link', { name: /^Bin/ }).click()
  await expect(page.getByRole('heading', { name: 'Bin' })).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('button', { name: /^Take back: Regatta/ }).first().click()
  await expect(page.getByText('back.', { exact: false }).first()).toBeVisible()
  await page.goto(album)
  await expect(page.locator('#frame-11 img')).toBeVisible()
  expect(await order()).toEqual(before)
  await expect.poll(async () => (await page.request.get('/regatta')).status()).toBe(200)
})

test('words typed while others are being saved are saved, too', async ({ page }) => {
  await page.getByRole('link', { name: /^Photos/ }).click()
  await page.locator('#frame-5').dblclick()
  const title = page.getByRole('textbox', { name: 'Title' })
  await expect(title).toBeVisible()
  const photo = new URL(page.url()).searchParams.get('photo')
  let held: (() => void) | undefined
  const holding = new Promise<void>((go) => {
    held = go
  })
  let saves = 0
  await page.route(`**/api/photos/${photo}`, async (route) => {
    if (route.request().method() === 'PATCH' && ++saves === 1) await holding
    await route.continue()
  })
  await title.fill('First thought')
  await expect.poll(() => saves).toBe(1)
  await title.fill('Second thought')
  held?.()
  await expect(page.getByText('Saved.')).toBeVisible()
  await expect(title).toHaveValue('Second thought')
  await expect.poll(async () => (await (await page.request.get(`/api/photos/${photo}`)).json()).title).toBe('Second thought')
  await page.getByRole('button', { name: 'What happened to this photo' }).click()
  await expect(page.getByText('Odile Brandt', { exact: false }).first()).toBeVisible()
  await noSeriousFinding(page)
})

test('another tab sees at once what is done in this one', async ({ page, context }) => {
  const other = await context.newPage()
  await other.goto('/workroom/photos')
  await expect(other.locator('#frame-7 img')).toBeVisible()
  const name = await other.locator('#frame-7 [data-open]').innerText()
  await page.getByRole('link', { name: /^Photos/ }).click()
  await page.locator('#frame-7').click()
  await page.keyboard.press('Delete')
  await expect(other.locator('#frame-7 [data-open]')).not.toHaveText(name)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(other.locator('#frame-7 [data-open]')).toHaveText(name)
  await other.close()
})

test('a browser that is signed out from elsewhere is out', async ({ page, browser }) => {
  const other = await (await browser.newContext()).newPage()
  await signIn(other)
  await page.goto('/workroom/account')
  await noSeriousFinding(page)
  const others = page.getByRole('button', { name: 'Sign it out' })
  await expect(others.first()).toBeVisible()
  const many = await others.count()
  for (let i = 0; i < many; i++) {
    await others.first().click()
    await expect(others).toHaveCount(many - 1 - i)
  }
  await other.goto('/workroom/photos')
  await expect(other.getByRole('button', { name: 'Sign in' })).toBeVisible()
  await other.close()
})

test('the list of keys is seen whole, and every frame says which of how many it is', async ({ page }) => {
  await page.getByRole('link', { name: /^Photos/ }).click()
  const frame = page.locator('#frame-3')
  await expect(frame).toHaveAttribute('aria-posinset', '4')
  const total = Number(await frame.getAttribute('aria-setsize'))
  expect(total).toBeGreaterThanOrEqual(40)
  await page.keyboard.press('?')
  const last = page.getByRole('dialog').getByRole('button', { name: 'Close' })
  await expect(last).toBeInViewport({ ratio: 1 })
  await page.keyboard.press('Escape')
  // The chooser's active choice stays in view while one goes down with the keys.
  await page.locator('#frame-3').click()
  await page.keyboard.press('a')
  const field = page.getByRole('combobox', { name: 'Put into' })
  for (let i = 0; i < 12; i++) await field.press('ArrowDown')
  const active = await field.getAttribute('aria-activedescendant')
  await expect(page.locator(`[id="${active}"]`)).toBeInViewport({ ratio: 0.9 })
})
