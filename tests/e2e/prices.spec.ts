import { readFile, writeFile } from 'node:fs/promises'
import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneMaker } from './making'

// A price list is typed down by keys, mended, taken out as a table and in again; an album sells by it, and how its photos fit is looked at.
test.describe.configure({ mode: 'serial' })

let page: Page
oneMaker((next) => {
  page = next
})

const saved = () => expect(page.getByText('Saved; albums sell by it as it stands.')).toBeVisible()
const price = (called: string) => page.getByRole('textbox', { name: `Price of ${called}`, exact: true })
const foot = () => page.getByRole('status').filter({ has: page.getByRole('button', { name: 'Undo' }) })

/** Types one option where options are added. */
async function add(what: string, cost: string) {
  await page.getByRole('textbox', { name: 'Size' }).last().fill(what)
  await page.keyboard.press('Tab')
  await page.keyboard.type(cost)
  await page.keyboard.press('Enter')
}

test('a list is begun, and its options are typed one after another', async () => {
  await page.goto('/workroom/prices')
  await expect(page.getByText('No price list yet')).toBeVisible()
  await page.getByRole('textbox', { name: 'Name of the list' }).fill('Prints of the regatta')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Name of the list' }).first()).toHaveValue('Prints of the regatta')
  await noSeriousFinding(page)
  await add('10x15cm', '4')
  await add('20 x 30 cm', '12,5')
  await page.getByRole('combobox', { name: 'What is added' }).selectOption({ label: 'a file' })
  await page.getByRole('textbox', { name: 'Price of a file' }).fill('5')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Settings of 20 × 30 cm print' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Settings of File, full size' })).toBeVisible()
  await saved()
  // As it is counted, once it was read again.
  await page.reload()
  await expect(price('20 × 30 cm print')).toHaveValue('12.50')
})

test('prices are typed down their column, and what is wrong is said beside its option', async () => {
  await price('10 × 15 cm print').fill('4.50')
  await page.keyboard.press('Enter')
  await expect(price('20 × 30 cm print')).toBeFocused()
  await page.keyboard.type('a lot')
  await page.keyboard.press('Enter')
  await expect(page.getByText('“a lot” is no amount in EUR; it is written 12.50.')).toBeVisible()
  // What is refused of one option keeps nothing else from being written.
  await price('File, full size').fill('5.50')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await page.request.get(page.url().replace('/workroom/', '/api/'))).text()).toContain('"price":"5.50"')
  await expect(page.getByText('“a lot” is no amount in EUR; it is written 12.50.')).toBeVisible()
  await price('20 × 30 cm print').fill('13')
  await page.keyboard.press('Enter')
  await saved()
  // A number that is none is put back rather than taken for none at all.
  await page.getByRole('button', { name: 'Settings of File, full size' }).click()
  const downloads = page.getByRole('textbox', { name: /^How often it may be fetched/ })
  await downloads.fill('5')
  await page.keyboard.press('Enter')
  await downloads.fill('ten')
  await page.keyboard.press('Enter')
  await expect(downloads).toHaveValue('5')
  await saved()
  await page.getByRole('button', { name: 'Settings of 10 × 15 cm print' }).click()
  await page.getByRole('textbox', { name: 'What one costs us' }).fill('5')
  await page.keyboard.press('Enter')
  await expect(page.getByText('It is sold below what it costs.')).toBeVisible()
  await page.getByRole('textbox', { name: 'What one costs us' }).fill('1.50')
  await page.keyboard.press('Enter')
  await expect(page.getByText('3.00 stay of each, 67 %.')).toBeVisible()
  await page.getByRole('button', { name: 'Another price from a number on' }).click()
  await page.getByRole('textbox', { name: 'What each costs then' }).fill('4')
  await page.keyboard.press('Enter')
  await expect(page.getByText('from 5: 4')).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Offer it no more' }).click()
  await saved()
  await page.goto('/workroom/prices')
  await expect(page.getByText('2 of 3 options offered')).toBeVisible()
  await page.getByRole('main').getByRole('link', { name: /Prints of the regatta/ }).click()
  await page.getByRole('button', { name: 'Settings of 10 × 15 cm print' }).click()
  await page.getByRole('button', { name: 'Offer it again' }).click()
  await saved()
})

test('it goes into a spreadsheet’s file, and comes back with what would change said before', async () => {
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Save as CSV' }).click()
  const file = await (await download).path()
  const text = await readFile(file, 'utf8')
  expect(text).toContain('20 × 30 cm')
  const changed = test.info().outputPath('prices.csv')
  await writeFile(changed, text.replace(',13.00,', ',14.00,'))
  await page.locator('input[type=file]').setInputFiles(changed)
  await expect(page.getByText('20 × 30 cm print: 13.00 EUR, then 14.00 EUR')).toBeVisible()
  await page.getByRole('button', { name: 'Write 1 option' }).click()
  await expect(price('20 × 30 cm print')).toHaveValue('14.00')
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(price('20 × 30 cm print')).toHaveValue('13.00')
})

test('an album sells by it, and of each photo it is seen what fits and what is cut off', async () => {
  await page.getByRole('button', { name: 'Sell an album by it' }).click()
  await page.getByRole('option', { name: /^Regatta/ }).first().click()
  await page.getByRole('link', { name: 'How its photos fit' }).click()
  await expect(page.getByRole('heading', { name: /^How “Regatta/ })).toBeVisible()
  const table = page.getByRole('table')
  const cell = table.getByRole('button', { name: /^10 × 15 cm print of/ }).first()
  await expect(cell).toHaveAccessibleName(/good|fair|soft|too small/)
  await noSeriousFinding(page)
  // By keys: the cell says how the photo fits, and takes the option off it.
  await cell.focus()
  await page.keyboard.press('Enter')
  const about = page.getByRole('dialog', { name: /^10 × 15 cm print of/ })
  await expect(about).toContainText('pixels an inch')
  await expect(about.getByRole('img')).toBeVisible()
  await about.getByRole('button', { name: 'Do not sell it of this photo' }).click()
  await expect(cell).toHaveAccessibleName(/Not sold of this photo/)
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(cell).not.toHaveAccessibleName(/Not sold of this photo/)
  await table.getByRole('button', { name: /^File, full size/ }).first().click()
  await page.getByRole('button', { name: 'Do not sell it in this album' }).click()
  await expect(table.getByRole('button', { name: /^File, full size of/ }).first()).toHaveAccessibleName(/Not sold in this album/)
  await page.getByRole('link', { name: 'To the album' }).click()
  await expect(page.getByRole('region', { name: 'What the album sells by' })).toContainText('without 1 option of it')
})

test('a list that an album sells by is not let go, and one that none does is', async () => {
  await page.getByRole('combobox', { name: 'What the album sells by' }).selectOption({ label: 'no price list' })
  await expect(page.getByRole('link', { name: 'How they fit' })).toHaveCount(0)
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('link', { name: 'How they fit' })).toBeVisible()
  await page.goto('/workroom/prices')
  await page.getByRole('main').getByRole('link', { name: /Prints of the regatta/ }).click()
  await page.getByRole('button', { name: 'Let the list go' }).click()
  await expect(page.getByText('Albums sell by this price list. Say of them what they sell by first.')).toBeVisible()
})
