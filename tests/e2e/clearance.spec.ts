import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// What is not cleared is seen by no visitor: said of a photo, by whom it shows, and for the whole site.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
let all = 0
oneMaker((next) => {
  page = next
  made = making(page)
})

const contents = () => page.getByRole('navigation', { name: 'Contents' })

/** How many photos a visitor finds on the page. */
async function found(visitor: Page) {
  await visitor.goto('/held-back')
  return visitor.locator('a.frame').count()
}

async function toClearance() {
  await contents().getByRole('link', { name: /^Visitors/ }).click()
  await contents().getByRole('link', { name: /^Clearance/ }).click()
  await expect(page.getByRole('heading', { name: 'Clearance', level: 1 })).toBeVisible()
}

/** The plate of the album's first photo. */
async function toPlate() {
  await contents().getByRole('link', { name: /^Albums/ }).click()
  await contents().getByRole('link', { name: /^Regatta/ }).first().click()
  await page.locator('#frame-0').dblclick()
  await expect(page.getByRole('button', { name: /cleared/i }).first()).toBeVisible()
}

test('a photo that is not cleared is gone for visitors, and everywhere it is said why', async ({ page: visitor }) => {
  await made.beginOf('Held back', /Regatta/)
  await made.publish()
  all = await found(visitor)
  expect(all).toBeGreaterThan(2)

  await toPlate()
  await page.getByRole('button', { name: 'Nobody has cleared it yet.' }).click()
  await page.getByRole('radio', { name: /^Not cleared/ }).check()
  await page.getByLabel('Who says so, and how you know').fill('the rower, at the prize-giving')
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Say so' }).click()
  await expect(page.getByRole('button', { name: 'Not cleared by the rower, at the prize-giving.' })).toBeVisible()
  await page.getByRole('button', { name: 'Only staff can see this; it is not cleared.' }).click()
  await expect(page.getByRole('dialog', { name: 'Why' }).getByRole('listitem').first()).toContainText('no visitor sees it, whatever else is set')
  await noSeriousFinding(page)
  await page.keyboard.press('Escape')
  await expect.poll(() => found(visitor)).toBe(all - 1)

  // The album counts it, the page's margin leads to it.
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /without the one photo that is not cleared/ }).click()
  await page.getByRole('dialog', { name: 'Why' }).getByRole('link', { name: 'See which' }).click()
  await expect(page.locator('[data-frame]')).toHaveCount(1)
  await contents().getByRole('link', { name: /^Pages/ }).click()
  await contents().getByRole('link', { name: 'Held back' }).click()
  await made.line('Photos').click()
  await page.getByRole('link', { name: '1 photo held back: not cleared.' }).click()
  await expect(page.locator('[data-frame]')).toHaveCount(1)

  // In hand, with keys alone, it is cleared.
  await page.keyboard.press('e')
  await expect(page.getByTestId('in-hand')).toHaveText('1 in hand')
  await page.keyboard.press('p')
  await page.getByRole('radio', { name: 'Cleared', exact: true }).press('Space')
  await page.getByLabel('Its last day; empty for no end').fill('2199-12-31')
  await page.keyboard.press('Enter')
  await expect(page.getByText('1 photo cleared.')).toBeVisible()
  await expect(page.locator('[data-frame]')).toHaveCount(0)
  await expect.poll(() => found(visitor)).toBe(all)
  await page.keyboard.press('Escape')
})

test('what a person says reaches the photos that name them', async ({ page: visitor }) => {
  await toPlate()
  await page.getByRole('button', { name: '+ person' }).click()
  await page.getByRole('combobox', { name: 'Who is shown' }).fill('Ada Thorne')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: /Ada Thorne/ })).toBeVisible()

  await toClearance()
  const row = page.getByRole('listitem').filter({ hasText: 'Ada Thorne' })
  await expect(row.getByRole('link', { name: '1 photo' })).toBeVisible()
  await row.getByRole('button', { name: 'Ada Thorne: Says no' }).click()
  await expect(page.getByText('Wrote what Ada Thorne says. 1 photo follows.')).toBeVisible()
  await expect(contents().getByRole('link', { name: /Clearance.*1 held/ })).toBeVisible()
  await noSeriousFinding(page)
  await expect.poll(() => found(visitor)).toBe(all - 1)

  await row.getByRole('button', { name: 'Says no' }).click()
  await page.getByRole('radio', { name: 'Yes' }).check()
  await page.getByLabel('Who says so, and how you know').fill('her mother, by telephone')
  await page.getByRole('button', { name: 'Write it' }).click()
  await expect(row.getByText('her mother, by telephone')).toBeVisible()
  await expect.poll(() => found(visitor)).toBe(all)

  // Somebody who is on no photo yet.
  await page.getByRole('searchbox', { name: 'Find a person' }).fill('Tam Weir')
  await page.getByRole('button', { name: 'Put “Tam Weir” on the list' }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'Tam Weir' }).getByText('on no photo yet')).toBeVisible()
})

test('a list is looked at before it is taken in, and taken back whole', async ({ page: visitor }) => {
  await toClearance()
  const list = 'name,says,class\r\nAda Thorne,no,3b\r\nInes Calloway,yes,3b\r\nPerrin Vane,perhaps,4a\r\n'
  await page.getByLabel('Take in a list').setInputFiles({ name: 'class.csv', mimeType: 'text/csv', buffer: Buffer.from(list) })
  await expect(page.getByText('1 photo leaves visitors’ sight.')).toBeVisible()
  await expect(page.getByText('“perhaps” is neither yes nor no.')).toBeVisible()
  await noSeriousFinding(page)
  expect(await found(visitor)).toBe(all)
  await page.getByRole('button', { name: 'Write what 2 persons say' }).click()
  await expect(page.getByText('Wrote what 2 persons say. 1 photo follows.')).toBeVisible()
  await expect.poll(() => found(visitor)).toBe(all - 1)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Taken back.')).toBeVisible()
  await expect.poll(() => found(visitor)).toBe(all)

  const saving = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Save the list as CSV' }).click()
  expect((await saving).suggestedFilename()).toMatch(/persons\.csv$/)
})

test('a site may show only what is cleared', async ({ page: visitor }) => {
  await toClearance()
  await page.getByRole('combobox', { name: 'What visitors see' }).selectOption({ label: 'only photos that are cleared' })
  await expect(page.getByText('Visitors see only photos that are cleared.')).toBeVisible()
  // The first of the album is cleared by hand since the first of these tests.
  await expect.poll(() => found(visitor)).toBe(1)
  await page.getByRole('link', { name: 'See which' }).click()
  await expect(page.getByText(/not cleared or that nobody has cleared yet|that nobody has cleared yet or not cleared|nobody has said/).first()).toBeVisible()
  await toClearance()
  await page.getByRole('combobox', { name: 'What visitors see' }).selectOption({ label: 'photos that nobody has refused' })
  await expect.poll(() => found(visitor)).toBe(all)
})
