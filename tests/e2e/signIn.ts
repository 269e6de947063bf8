import { type BrowserContext, expect, type Page, test } from '@playwright/test'

/** Signs in as the owner that the main job's first test makes. */
export async function signIn(page: Page) {
  await page.goto('/workroom')
  await page.getByLabel('E-mail address').fill('odile@example.test')
  await page.getByLabel('Password').fill('wind from the south-west')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
  await emptyHands(page)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
}

/** What one test took in hand is a person's own on every machine: the next one begins without. */
async function emptyHands(page: Page) {
  await page.evaluate(async () => {
    const session = (await (await fetch('/api/session')).json()) as { forgery: string }
    await fetch('/api/hand', { method: 'DELETE', headers: { 'X-Jovitar-Forgery': session.forgery } })
  })
}

/** One browser for all tests of a file, for who signs in again and again within a minute must wait; each test has a page of its own. */
export function oneBrowser(hand: (page: Page) => void, address?: string) {
  let browserOfOne: BrowserContext
  let page: Page
  test.beforeAll(async ({ browser }) => {
    browserOfOne = await browser.newContext()
    const first = await browserOfOne.newPage()
    await signIn(first)
    await first.close()
  })
  test.beforeEach(async () => {
    page = await browserOfOne.newPage()
    hand(page)
    if (address) await page.goto(address)
  })
  test.afterEach(async () => {
    await emptyHands(page)
    await page.close()
  })
  test.afterAll(() => browserOfOne.close())
}
