import { type BrowserContext, expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// An album asks a client for favourites: chosen on a phone, gone on with on another device, sent, and waiting on the desk.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
let link = ''
let phone: Page
const contexts: BrowserContext[] = []
oneMaker((next) => {
  page = next
  made = making(page)
})
test.afterAll(() => Promise.all(contexts.map((context) => context.close())))

const audience = () => page.getByRole('dialog', { name: /^Who sees/ })
const foot = (visitor: Page) => visitor.locator('.choice-foot')

test('an album asks those whom it knows, in its own words and for so many', async () => {
  await page.getByRole('link', { name: /^Albums/ }).click()
  await page.getByRole('link', { name: /Regatta/ }).first().click()
  await page.getByRole('button', { name: 'and is asked for nothing' }).click()
  const form = page.getByRole('dialog', { name: 'Ask them for favourites' })
  await form.getByLabel('At most so many').fill('2')
  await form.getByLabel('What you ask them').fill('Two for the boathouse door, please.')
  await noSeriousFinding(page)
  await form.getByRole('button', { name: 'Ask for them' }).click()
  await expect(page.getByRole('button', { name: 'and is asked for up to 2 favourites' })).toBeVisible()
  await page.getByRole('combobox', { name: /^In what form those may save/ }).selectOption({ label: 'its photos, in full size' })
  await expect(page.getByText('Visitors have it so from now on.')).toBeVisible()
})

test('a page is for the holder of a link, and theirs alone asks', async ({ page: visitor }) => {
  await made.beginOf('For the boathouse', /Regatta/)
  await made.publish()
  await page.getByRole('button', { name: /^Everyone can see this page/ }).click()
  await page.getByRole('button', { name: 'Change who sees this' }).click()
  await audience().getByRole('radio', { name: /^Holders of an entry link/ }).click()
  await audience().getByRole('button', { name: 'Say so' }).click()
  await audience().getByLabel('For whom').fill('The boat builder')
  await audience().getByRole('button', { name: 'Make a link' }).click()
  link = (await audience().getByRole('listitem').filter({ hasText: 'The boat builder' }).locator('.select-all').textContent()) ?? ''
  await page.keyboard.press('Escape')
  await expect(audience()).toBeHidden()
  await visitor.goto('/regatta')
  await expect(visitor.locator('.frame').first()).toBeVisible()
  await expect(visitor.locator('[data-choosing]')).toHaveCount(0)
})

test('on a phone rings are pressed until there are as many as may be', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, reducedMotion: 'reduce' })
  contexts.push(context)
  phone = await context.newPage()
  await phone.goto(link)
  await phone.getByRole('button').first().click()
  await expect(phone.getByText('Two for the boathouse door, please.')).toBeVisible()
  await expect(phone.getByText('Up to 2.')).toBeVisible()
  const frames = phone.locator('a.frame')
  await expect(foot(phone)).toContainText('0 of 2 chosen')
  await frames.nth(0).locator('.ring').tap()
  await frames.nth(1).locator('.ring').tap()
  await expect(foot(phone)).toContainText('2 of 2 chosen')
  await frames.nth(2).locator('.ring').tap()
  await expect(foot(phone)).toContainText('You may choose 2. Let go of one first.')
  await expect(frames.nth(2)).not.toHaveClass(/marked/)
  await noSeriousFinding(phone)
})

test('what is pressed while what is kept is read again stays as it was pressed', async () => {
  const frames = phone.locator('a.frame')
  let release = () => {}
  const held = new Promise<void>((done) => {
    release = done
  })
  // The answer of before comes after the press.
  const read = phone.waitForRequest((request) => request.method() === 'GET' && /\/site\/choosing\/[\da-f-]+$/.test(request.url()))
  await phone.route(/\/site\/choosing\/[\da-f-]+$/, async (route) => {
    const answer = await route.fetch()
    await held
    await route.fulfill({ response: answer })
  })
  const answered = phone.waitForResponse(/\/site\/choosing\/[\da-f-]+$/)
  await phone.evaluate(() => document.dispatchEvent(new Event('visibilitychange')))
  await read
  await frames.nth(1).locator('.ring').tap()
  await expect(foot(phone)).toContainText('1 of 2 chosen')
  release()
  await answered
  await phone.unroute(/\/site\/choosing\/[\da-f-]+$/)
  await phone.waitForLoadState('networkidle')
  await expect(foot(phone)).toContainText('1 of 2 chosen')
  await expect(frames.nth(1)).not.toHaveClass(/marked/)
  await frames.nth(1).locator('.ring').tap()
  await expect(foot(phone)).toContainText('2 of 2 chosen')
})

test('another device has the same, changes it in the viewer and by a key, and sends it', async ({ browser }) => {
  const context = await browser.newContext({ reducedMotion: 'reduce' })
  contexts.push(context)
  const desktop = await context.newPage()
  await desktop.goto(link)
  await desktop.getByRole('button').first().click()
  const frames = desktop.locator('a.frame')
  await expect(frames.nth(1)).toHaveClass(/marked/)
  await frames.nth(1).focus()
  await desktop.keyboard.press('m')
  await expect(frames.nth(1)).not.toHaveClass(/marked/)
  await frames.nth(2).click()
  const viewer = desktop.getByRole('dialog')
  await viewer.getByRole('button', { name: 'Mark', exact: true }).click()
  await expect(viewer.getByRole('button', { name: 'Marked', exact: true })).toBeVisible()
  // What everyone may not, the client may.
  await expect(viewer.getByRole('link', { name: 'Save', exact: true })).toBeVisible()
  await desktop.keyboard.press('Escape')
  await desktop.getByRole('button', { name: 'See and send them' }).first().click()
  const choice = desktop.getByRole('dialog', { name: 'Your favourites' })
  await expect(choice.getByRole('listitem')).toHaveCount(2)
  await noSeriousFinding(desktop)
  // Who lets go of one here may think again.
  await choice.getByRole('listitem').first().getByRole('button').click()
  await expect(choice.getByRole('button', { name: 'Send this photograph' })).toBeVisible()
  await choice.getByRole('listitem').first().getByRole('button').click()
  await choice.getByLabel('Anything you want to say with them').fill('The second one in black and white.')
  await choice.getByRole('button', { name: 'Send these 2 photographs' }).click()
  await expect(choice.getByText('Once they are sent you cannot change them any more.')).toBeVisible()
  await choice.getByRole('button', { name: 'Send them now' }).click()
  await expect(choice.getByText('These favourites were sent.')).toBeVisible()
  await choice.getByRole('button', { name: 'Close' }).click()
  await frames.nth(0).focus()
  await desktop.keyboard.press('m')
  await expect(frames.nth(0)).toHaveClass(/marked/)
  // The phone hears of it when it is told that it may not.
  await phone.locator('a.frame').nth(0).locator('.ring').tap()
  await expect(foot(phone)).toContainText('These favourites were sent.')
  await expect(phone.locator('a.frame').nth(0)).toHaveClass(/marked/)
  await expect(phone.locator('a.frame').nth(2)).toHaveClass(/marked/)
})

test('they wait on the desk until somebody has noted them, and are taken in hand', async () => {
  await page.goto('/workroom')
  await page.getByRole('link', { name: 'The boat builder chose from' }).click()
  const one = page.getByRole('region', { name: /^Favourites of The boat builder/ })
  await expect(one.getByText('The second one in black and white.')).toBeVisible()
  await expect(one.getByRole('listitem')).toHaveCount(2)
  await noSeriousFinding(page)
  await one.getByRole('button', { name: 'Noted' }).click()
  await expect(one.getByRole('button', { name: 'Noted' })).toHaveCount(0)
  await one.getByRole('button', { name: 'Take all 2 in hand' }).click()
  await page.getByRole('link', { name: /^Photos/ }).click()
  await expect(page.getByText('2 in hand').first()).toBeVisible()
  await page.keyboard.press('Escape')
  await page.goto('/workroom')
  await expect(page.getByRole('link', { name: 'The boat builder chose from' })).toHaveCount(0)
})

test('what the client did is recorded, and how long that is kept is said', async () => {
  await page.goto('/workroom/favourites')
  await page.getByRole('link', { name: 'What they did' }).click()
  await expect(page.getByText('Of The boat builder')).toBeVisible()
  await expect(page.getByRole('listitem').filter({ hasText: 'opened For the boathouse' })).toHaveCount(1)
  await page.getByRole('link', { name: 'Of everybody' }).click()
  await noSeriousFinding(page)
  await page.getByRole('combobox', { name: 'For how long records are kept' }).selectOption({ label: 'Kept for 30 days' })
  const ask = page.getByRole('dialog', { name: 'Forget what is recorded?' })
  await expect(ask.getByText('Records older than 30 days are removed now.')).toBeVisible()
  await ask.getByRole('button', { name: 'Forget them' }).click()
  await expect(page.getByRole('combobox', { name: 'For how long records are kept' })).toHaveValue('30')
})

test('they are let change it again, and the album asks no longer', async () => {
  await page.goto('/workroom/favourites')
  await page.getByRole('button', { name: 'Let them change it again' }).click()
  await expect(page.getByText('The boat builder can choose on.')).toBeVisible()
  await phone.reload()
  await phone.locator('a.frame').nth(0).locator('.ring').tap()
  await expect(foot(phone)).toContainText('1 of 2 chosen')
  await page.goto('/workroom/albums')
  await page.getByRole('link', { name: /Regatta/ }).first().click()
  // Who is quicker than the line: what is pressed last waits for what was pressed before, and does not undo it.
  await page.route('**/offers', async (route) => {
    if (route.request().method() === 'PUT') await page.waitForTimeout(1500)
    await route.continue()
  })
  const knownSave = page.getByRole('combobox', { name: /^In what form those may save/ })
  await knownSave.selectOption({ label: 'nothing' })
  await page.getByRole('button', { name: 'and is asked for up to 2 favourites' }).click()
  await page.getByRole('button', { name: 'Ask no longer' }).click()
  await expect(page.getByRole('button', { name: 'and is asked for nothing' })).toBeVisible()
  await expect(knownSave).toHaveValue('nothing')
  await page.unroute('**/offers')
  await phone.reload()
  await expect(phone.locator('a.frame').first()).toBeVisible()
  await expect(phone.locator('[data-choosing]')).toHaveCount(0)
})
