import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// Visitors mark photos: at the picture, in the viewer, with a key; and send others what they marked.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})
let sent = ''

test('the owner lets visitors mark favourites', async ({ page: visitor }) => {
  await made.beginOf('To mark', /Regatta/)
  await made.publish()
  await visitor.goto('/to-mark')
  await visitor.locator('a.frame').first().click()
  await expect(visitor.getByRole('dialog').getByRole('button', { name: 'Copy link' })).toBeVisible()
  await expect(visitor.getByRole('button', { name: 'Mark' })).toHaveCount(0)

  await page.goto('/workroom/site')
  await page.getByRole('combobox', { name: 'Whether visitors mark favourites' }).selectOption('yes')
  await expect(page.getByRole('status').filter({ hasText: 'Saved.' })).toBeVisible()
  await noSeriousFinding(page)
})

test('photos are marked at the picture, in the viewer and by a key, and sent as a link', async ({ page: visitor, browser }) => {
  await visitor.goto('/to-mark')
  const frames = visitor.locator('a.frame')
  await frames.first().hover()
  await frames.first().locator('.ring').click()
  await expect(visitor).toHaveURL(/\/to-mark$/)
  await expect(frames.first()).toHaveClass(/marked/)
  const all = visitor.getByRole('link', { name: /marked$/ })
  await expect(all).toHaveText('1 marked')

  await frames.nth(2).click()
  const viewer = visitor.getByRole('dialog')
  await viewer.getByRole('button', { name: 'Mark', exact: true }).click()
  await expect(viewer.getByRole('button', { name: 'Marked', exact: true })).toBeVisible()
  await noSeriousFinding(visitor)
  await visitor.keyboard.press('ArrowRight')
  await expect(viewer.getByRole('button', { name: 'Mark', exact: true })).toBeVisible()
  await visitor.keyboard.press('m')
  await expect(viewer.getByRole('button', { name: 'Marked', exact: true })).toBeVisible()
  await visitor.keyboard.press('Escape')
  await expect(all).toHaveText('3 marked')
  await frames.nth(4).focus()
  await visitor.keyboard.press('m')
  await expect(all).toHaveText('4 marked')
  // What is marked is said to those who do not see the ring, and is there after a reload.
  await visitor.reload()
  await expect(visitor.locator('a.frame.marked')).toHaveCount(4)
  await expect(frames.nth(4)).toHaveAccessibleName(/Marked\.$/)
  await noSeriousFinding(visitor)

  await all.click()
  await expect(visitor.getByRole('heading', { name: 'Favourites' })).toBeVisible()
  await expect(visitor.locator('a.frame')).toHaveCount(4)
  await expect(visitor.getByText('You marked these.')).toBeVisible()
  await expect(all).toHaveCount(0)
  await noSeriousFinding(visitor)
  sent = visitor.url()

  // Whoever gets the link sees the same, also without scripts, and takes them up as their own.
  const other = await browser.newPage()
  await other.goto(sent)
  await expect(other.getByText('Somebody marked these and sent them to you.')).toBeVisible()
  await other.getByRole('button', { name: 'Mark them all, too' }).click()
  await expect(other.locator('a.frame.marked')).toHaveCount(4)
  await other.close()
  const plain = await browser.newPage({ javaScriptEnabled: false })
  await plain.goto(sent)
  await expect(plain.locator('a.frame')).toHaveCount(4)
  await plain.close()
})

test('marks are let go of, taken back, and the same in every tab', async ({ page: visitor, context }) => {
  await visitor.goto(sent)
  await visitor.getByRole('button', { name: 'Mark them all, too' }).click()
  const second = await context.newPage()
  await second.goto('/to-mark')
  await expect(second.locator('a.frame.marked')).toHaveCount(4)
  await visitor.getByRole('button', { name: 'Let go of all marks' }).click()
  await expect(second.locator('a.frame.marked')).toHaveCount(0)
  await visitor.getByRole('button', { name: 'Mark them again' }).click()
  await expect(second.getByRole('link', { name: /marked$/ })).toHaveText('4 marked')
  // On a photo's own page, too.
  await second.goto(await second.locator('a.frame').nth(1).evaluate((link: HTMLAnchorElement) => link.href))
  await second.getByRole('button', { name: 'Mark', exact: true }).click()
  await expect(second.getByRole('link', { name: /marked$/ })).toHaveText('5 marked')
  await noSeriousFinding(second)
  // Of many that were sent only some stand in the page at first; all of them are marked.
  const many = await second.evaluate(() => Array.from({ length: 300 }, () => crypto.randomUUID()))
  await second.evaluate((ids) => localStorage.setItem('favourites', JSON.stringify(ids)), many)
  await second.goto('/to-mark')
  await second.getByRole('link', { name: '300 marked' }).click()
  await expect(second.getByText('None of these photographs can be seen any more.')).toBeVisible()
  await second.getByRole('button', { name: 'Let go of all marks' }).click()
  expect(await second.evaluate(() => localStorage.getItem('favourites'))).toBe('[]')
  // As many as a link can name, and no more.
  await second.evaluate(() => localStorage.setItem('favourites', JSON.stringify(Array.from({ length: 300 }, () => crypto.randomUUID()))))
  await second.goto('/to-mark')
  await second.locator('a.frame').first().focus()
  await second.keyboard.press('m')
  await expect(second.getByText('300 photographs are marked: no more fit into a link.')).toBeVisible()
  await second.close()
})
