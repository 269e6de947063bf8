import { type BrowserContext, expect, type Page, test } from '@playwright/test'

/** Signs in as the owner that the main job's first test makes. */
export async function signIn(page: Page) {
  await page.goto('/workroom')
  await page.getByLabel('E-mail address').fill('odile@example.test')
  await page.getByLabel('Password').fill('wind from the south-west')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
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
  test.afterEach(() => page.close())
  test.afterAll(() => browserOfOne.close())
}
