import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// Photos on another website: the line is made and copied in the workroom and pasted into a page that is not ours.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})

/** Another website, with a policy of its own; what is pasted into its one page stands between two paragraphs. */
let elsewhere: Server
let pasted = ''
test.beforeAll(
  () =>
    new Promise<void>((ready) => {
      elsewhere = createServer((_, answer) => {
        answer.setHeader('Content-Type', 'text/html; charset=utf-8')
        answer.end(
          `<!DOCTYPE html><title>Saltings School</title><body style="margin:20px auto;max-width:700px"><p>Above.</p>${pasted}<p id="below">Below.</p>`,
        )
      }).listen(0, '127.0.0.1', ready)
    }),
)
test.afterAll(() => elsewhere.close())
const other = () => `http://127.0.0.1:${(elsewhere.address() as AddressInfo).port}/`

const line = () => page.getByRole('textbox', { name: 'The line' })

test('how photos stand elsewhere is set beside them, and the line follows and is copied', async () => {
  await made.begin('Seen elsewhere')
  await made.add('photos')
  await made.order.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /Regatta/ }).first().click()
  // What visitors do not have cannot stand elsewhere.
  await page.getByRole('button', { name: 'About the page' }).click()
  await expect(page.getByRole('link', { name: 'On another website' })).toHaveCount(0)
  await made.publish()
  await page.getByRole('link', { name: 'On another website' }).click()
  await expect(page.getByRole('heading', { name: '“Seen elsewhere” on another website' })).toBeVisible()
  await expect(line()).toHaveValue(/\/embed\/seen-elsewhere"/)
  const shown = page.frameLocator('iframe[title^="On the other website"]')
  await expect(shown.locator('a.frame').first()).toBeVisible()
  await made.choose('Layout on the other website', 'in a grid')
  await made.choose('How large', 'smaller')
  await page.getByRole('textbox', { name: 'How many at most' }).fill('2')
  await page.keyboard.press('Enter')
  await expect(line()).toHaveValue(/\/embed\/seen-elsewhere\?layout=grid&amp;size=small&amp;most=2"/)
  await expect(shown.locator('a.frame')).toHaveCount(2)
  // It stands in the address: loaded again, all is as it was.
  await page.reload()
  await expect(line()).toHaveValue(/\?layout=grid&amp;size=small&amp;most=2"/)
  await page.getByRole('button', { name: 'Copy the line' }).click()
  await expect(page.getByRole('status').filter({ hasText: 'Copied.' })).toBeVisible()
  await noSeriousFinding(page)
  pasted = await line().inputValue()
})

test('on the other website the frame is as high as its photos at every width, and a press leads to the site', async ({ page: reader, context }) => {
  const refused: string[] = []
  reader.on('console', (said) => said.type() === 'error' && refused.push(said.text()))
  await reader.goto(other())
  const frame = reader.locator('iframe')
  const inside = reader.frameLocator('iframe')
  await expect(inside.locator('a.frame')).toHaveCount(2)
  await expect(inside.getByText(/^All \d+ photographs at /)).toBeVisible()
  const fits = () =>
    expect
      .poll(async () => Math.abs(((await frame.boundingBox())?.height ?? 0) - (await inside.locator('body').evaluate((body) => body.getBoundingClientRect().height))))
      .toBeLessThanOrEqual(1)
  await fits()
  const before = (await frame.boundingBox())?.height
  await reader.setViewportSize({ width: 390, height: 800 })
  await expect.poll(async () => (await frame.boundingBox())?.height).not.toBe(before)
  await fits()
  expect(await inside.locator('html').evaluate((html) => html.scrollWidth <= html.clientWidth)).toBe(true)
  // What is pressed opens beside the other website, on the site.
  const opened = context.waitForEvent('page')
  await inside.locator('a.frame').first().click()
  const photo = await opened
  await photo.waitForURL(/\/seen-elsewhere\/photo\//)
  await expect(photo.locator('main img').first()).toBeVisible()
  expect(reader.url()).toBe(other())
  expect(refused).toEqual([])
})

test('what is withdrawn is withdrawn there, too, in words', async ({ page: reader }) => {
  await page.goBack()
  await page.getByRole('link', { name: /^Pages/ }).click()
  await page.getByRole('link', { name: /^Seen elsewhere/ }).first().click()
  await page.getByRole('button', { name: 'About the page' }).click()
  await page.getByRole('button', { name: 'Withdraw', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Publish', exact: true })).toBeVisible()
  await reader.goto(other())
  await expect(reader.frameLocator('iframe').getByText('These photographs are no longer shown here.')).toBeVisible()
})
