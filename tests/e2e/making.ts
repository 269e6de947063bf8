import { type BrowserContext, expect, type Page, test } from '@playwright/test'
import { signIn } from './signIn'

/** A page of the workroom on which pages are made: its running order, the page beside it, and what one does with both. */
export function making(page: Page) {
  const order = page.getByRole('region', { name: 'Running order' })
  return {
    order,
    seen: page.frameLocator('iframe[title^="Preview"]'),
    /** The line of a block. */
    line: (name: string) => order.getByRole('button', { name: new RegExp(`^Settings of ${name}`) }),
    choose: (label: string, words: string) => page.getByRole('combobox', { name: label, exact: true }).selectOption({ label: words }),
    /** Makes a page and opens it. */
    async begin(title: string) {
      await page.getByRole('link', { name: /^Pages/ }).click()
      await page.getByRole('textbox', { name: 'New page' }).fill(title)
      await page.keyboard.press('Enter')
    },
    /** Adds a block by keys alone. */
    async add(kind: string) {
      await order.getByRole('button', { name: kind, exact: true }).focus()
      await page.keyboard.press('Enter')
    },
    /** Makes a page of one album, with its photos. */
    async beginOf(title: string, album: RegExp) {
      await this.begin(title)
      await this.add('photos')
      await this.order.getByRole('button', { name: '+ album' }).click()
      await page.getByRole('option', { name: album }).first().click()
      await expect(this.seen.locator('a.frame').first()).toBeVisible()
    },
    async publish() {
      await page.getByRole('button', { name: /^Publish(?!ed)/ }).click()
      await expect(page.getByRole('button', { name: 'Published', exact: true })).toBeVisible()
    },
  }
}

/** Signs one member of staff in for all tests of a file. */
export function oneMaker(onPage: (page: Page) => Promise<void> | void) {
  let staff: BrowserContext
  test.beforeAll(async ({ browser }) => {
    staff = await browser.newContext()
    const page = await staff.newPage()
    await signIn(page)
    await onPage(page)
  })
  test.afterAll(() => staff.close())
}
