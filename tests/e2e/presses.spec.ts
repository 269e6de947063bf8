import { readFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// What a press on a photo does, what says so before, what the viewer tells, and what visitors may save.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})
const saved = () => expect(page.getByRole('status').filter({ hasText: 'Saved.' })).toBeVisible()

test('an author says what a press does, brings a sign, and offers photos to be saved', async () => {
  await made.begin('By press')
  await made.add('photos')
  await made.order.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /Regatta/ }).first().click()
  await made.order.getByRole('button', { name: 'What a press does' }).click()
  await made.choose('What a press on a photo does', 'does nothing.')
  await expect(made.seen.locator('a.frame').first()).toBeVisible()
  await expect(made.seen.locator('a.frame[href]')).toHaveCount(0)
  await expect(page.getByRole('combobox', { name: 'When a sign says so' })).toHaveCount(0)

  // A sign is offered by itself where photos lead elsewhere.
  await made.choose('What a press on a photo does', 'leads where its own link does; without one it opens large.')
  await expect(page.getByRole('combobox', { name: 'When a sign says so' })).toHaveValue('always')
  await expect(made.seen.locator('a.frame use[href="#sign-viewer"]')).toHaveCount(12)
  await made.choose('What a press on a photo does', 'opens it large.')
  const file = made.order.locator('input[type=file]')
  await file.setInputFiles({ name: 'words.svg', mimeType: 'image/svg+xml', buffer: Buffer.from('not a drawing') })
  await expect(made.order.getByRole('alert')).toHaveText(/That is no SVG/)
  const drawing = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9" onload="document.title=1"><script>document.title=2</script><path d="M1 8 8 1" stroke="red"/></svg>'
  await file.setInputFiles({ name: 'kite.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing) })
  await expect(made.seen.locator('a.frame use[href="#sign-w1"]')).toHaveCount(12)
  await expect(made.order.getByRole('alert')).toHaveCount(0)
  expect(await made.seen.locator('#sign-w1').innerHTML()).toBe('<path d="M1 8 8 1" stroke="currentColor"></path>')
  await made.order.getByRole('button', { name: 'title', exact: true }).click()
  await made.order.getByRole('button', { name: 'date', exact: true }).click()
  await made.choose('What visitors may save', 'them up to 2,560 pixels on the longer side.')
  await saved()
  await noSeriousFinding(page)
  await made.publish()
})

test('a visitor sees the sign, reads what is told, and saves the photo, with scripts and without', async ({ page: visitor, browser }) => {
  await visitor.goto('/by-press')
  await expect(visitor.locator('a.frame .sign').first()).toBeVisible()
  await noSeriousFinding(visitor)
  await visitor.locator('a.frame').first().click()
  const viewer = visitor.getByRole('dialog')
  await expect(viewer.locator('h2')).toHaveClass('unseen')
  const waits = visitor.waitForEvent('download')
  await viewer.getByRole('link', { name: 'Save' }).click()
  const download = await waits
  expect(download.suggestedFilename()).toMatch(/\.jpg$/)
  expect([...readFileSync((await download.path()) ?? '').subarray(0, 3)]).toEqual([0xff, 0xd8, 0xff])
  await noSeriousFinding(visitor)

  const plain = await browser.newPage({ javaScriptEnabled: false })
  await plain.goto('/by-press')
  await plain.locator('a.frame').first().click()
  const waitsToo = plain.waitForEvent('download')
  await plain.getByRole('link', { name: 'Save this photo' }).click()
  expect((await waitsToo).suggestedFilename()).toBe(download.suggestedFilename())
  await plain.close()
})
