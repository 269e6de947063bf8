import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// A page for those alone who hold an entry link or a passcode: set up in the workroom, asked for at the door, withdrawn at once.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
let passcode = ''
let link = ''
oneMaker((next) => {
  page = next
  made = making(page)
})

const dialog = () => page.getByRole('dialog', { name: /^Who sees/ })

async function toAudience(sentence: RegExp) {
  await page.getByRole('button', { name: sentence }).click()
  await page.getByRole('button', { name: 'Change who sees this' }).click()
  await expect(dialog()).toBeVisible()
}

/** What stands beneath the name of an entry. */
const secretOf = async (name: string) => {
  const line = dialog().getByRole('listitem').filter({ hasText: name })
  await expect(line).toBeVisible()
  return (await line.locator('.select-all').textContent()) ?? ''
}

test('a page is for holders, who are named, and whoever gains or loses it is said first', async () => {
  await made.beginOf('For one family', /Regatta/)
  await made.publish()
  await toAudience(/^Everyone can see this page/)
  await dialog().getByRole('radio', { name: /^Holders of an entry link/ }).click()
  await expect(dialog().getByText('Everyone but holders of an entry link or passcode loses this page.')).toBeVisible()
  await dialog().getByRole('button', { name: 'Say so' }).click()
  await expect(dialog().getByText('Nobody is let in yet.')).toBeVisible()

  await dialog().getByRole('button', { name: 'Make a link' }).click()
  await expect(dialog().getByText('Say for whom it is.')).toBeVisible()
  await dialog().getByLabel('For whom').fill('The Harrow family')
  await dialog().getByRole('button', { name: 'Make a link' }).click()
  link = await secretOf('The Harrow family')
  await dialog().getByLabel('For whom').fill('Grandmother Harrow')
  await dialog().getByRole('combobox', { name: 'What lets them in' }).selectOption('passcode')
  await dialog().getByRole('button', { name: 'Make a passcode' }).click()
  passcode = await secretOf('Grandmother Harrow')
  expect(link).toMatch(/\/enter\/[\w-]{43}$/)
  expect(passcode).toMatch(/^\w{4}-\w{4}-\w{4}$/)
  await noSeriousFinding(page)
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'Holders of an entry link to “For one family” can see this page.' })).toBeVisible()
})

test('nobody else learns of it, and who has the passcode comes in without a script and leaves again', async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false })
  const visitor = await context.newPage()
  const answer = await visitor.goto('/for-one-family')
  expect(answer?.status()).toBe(403)
  await expect(visitor.getByRole('heading', { name: 'For invited visitors' })).toBeVisible()
  await expect(visitor.getByText('For one family')).toHaveCount(0)
  await visitor.getByLabel('Passcode').fill('abcd-efgh-jkmn')
  await visitor.getByRole('button', { name: 'Show me the photographs' }).click()
  await expect(visitor.getByText('That passcode does not open this.')).toBeVisible()
  await expect(visitor.getByLabel('Passcode')).toHaveValue('abcd-efgh-jkmn')
  await visitor.getByLabel('Passcode').fill(passcode.toUpperCase().replaceAll('-', ' '))
  await visitor.getByRole('button', { name: 'Show me the photographs' }).click()
  await expect(visitor.getByRole('heading', { name: 'For one family' })).toBeVisible()
  await expect(visitor.locator('a.frame').first()).toBeVisible()
  await visitor.getByRole('button', { name: 'Leave on this device' }).click()
  await visitor.goto('/for-one-family')
  await expect(visitor.getByRole('heading', { name: 'For invited visitors' })).toBeVisible()
  await context.close()
})

test('a link lets in at a press, and nobody any more once it is withdrawn', async ({ page: visitor }) => {
  await visitor.goto(link)
  await expect(visitor.getByRole('heading', { name: 'You are invited' })).toBeVisible()
  await noSeriousFinding(visitor)
  await visitor.getByRole('button', { name: 'Show me the photographs' }).click()
  await expect(visitor.getByRole('heading', { name: 'For one family' })).toBeVisible()
  await visitor.locator('a.frame').first().click()
  const large = visitor.getByRole('dialog').locator('img').first()
  await expect(large).toBeVisible()
  await expect.poll(() => large.evaluate((img: HTMLImageElement) => img.complete && img.naturalWidth > 0)).toBe(true)
  await noSeriousFinding(visitor)

  await page.reload()
  await toAudience(/^Holders of an entry link/)
  const line = dialog().getByRole('listitem').filter({ hasText: 'The Harrow family' })
  await line.getByRole('button', { name: /^one browser came in/ }).click()
  await expect(line.getByRole('list', { name: 'Who came in' })).toContainText(/Chrome.* from 127\.0\.0\.0\/24/)
  await line.getByRole('button', { name: 'Withdraw' }).click()
  await line.getByRole('button', { name: 'Withdraw' }).last().click()
  await expect(line).toHaveCount(0)
  await visitor.goto('/for-one-family')
  await expect(visitor.getByRole('heading', { name: 'For invited visitors' })).toBeVisible()
  await visitor.goto(link)
  await expect(visitor.getByRole('heading', { name: 'Nothing opens here' })).toBeVisible()
  await noSeriousFinding(visitor)

  await dialog().getByRole('radio', { name: /^Everyone/ }).click()
  await dialog().getByRole('button', { name: 'Say so' }).click()
  await expect(dialog().getByText('They open it only while it is for their holders.')).toBeVisible()
  await page.keyboard.press('Escape')
  await visitor.goto('/for-one-family')
  await expect(visitor.getByRole('heading', { name: 'For one family' })).toBeVisible()
})
