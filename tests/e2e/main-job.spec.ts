import { execFileSync } from 'node:child_process'
import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'

// One run of the main job, from a new site to a visitor's filtered page; the steps build on one another.
test.describe.configure({ mode: 'serial' })

const photos = join(process.env.JOVITAR_ROOT ?? '.', 'demo/photos')
const chosen = readdirSync(photos)
  .filter((name) => name.endsWith('.jpg'))
  .sort()
  .slice(0, 40)
let staff: Page

test.beforeAll(async ({ browser }) => {
  staff = await (await browser.newContext()).newPage()
})
test.afterAll(() => staff.close())

test('the first visitor of the workroom makes the site their own', async () => {
  await staff.goto('/workroom')
  await expect(staff.getByRole('heading', { name: 'Make this site yours' })).toBeVisible()
  await noSeriousFinding(staff)
  await staff.getByLabel('What is the site called?').fill('Sandling Rowing Club')
  await staff.getByLabel('What are you called?').fill('Odile Brandt')
  await staff.getByLabel('E-mail address').fill('odile@example.test')
  await staff.getByLabel(/^Password/).fill('short')
  await staff.getByRole('button', { name: 'Begin' }).click()
  await expect(staff.getByText('Take at least 10 characters')).toBeVisible()
  await staff.getByLabel(/^Password/).fill('wind from the south-west')
  await staff.getByRole('button', { name: 'Begin' }).click()
  await expect(staff.getByRole('heading', { name: 'Desk' })).toBeVisible()
  await staff.getByRole('button', { name: 'Sign out' }).click()
  await staff.getByLabel('E-mail address').fill('odile@example.test')
  await staff.getByLabel('Password').fill('not this one')
  await staff.getByRole('button', { name: 'Sign in' }).click()
  await expect(staff.getByRole('alert')).toHaveText('This e-mail address and password do not belong together.')
  await staff.getByLabel('Password').fill('wind from the south-west')
  await staff.getByRole('button', { name: 'Sign in' }).click()
  await expect(staff.getByText('Begin by bringing in photos.')).toBeVisible()
})

test('forty photographs are taken in, one of them twice, and what is no photo is refused in words', async () => {
  await staff.getByRole('link', { name: /^Intake/ }).click()
  const odd = mkdtempSync(join(tmpdir(), 'odd-'))
  writeFileSync(join(odd, 'notes.jpg'), 'this is only text that calls itself a photo, and it is long enough to be judged')
  await staff.getByLabel('Choose files', { exact: true }).last().setInputFiles([...chosen.map((name) => join(photos, name)), join(odd, 'notes.jpg')])
  await expect(staff.getByTestId('tally')).toContainText('40 ready', { timeout: 60_000 })
  await expect(staff.getByText('This is not a picture, whatever its name says.', { exact: false })).toBeVisible()
  await staff.getByLabel('Choose files', { exact: true }).last().setInputFiles(join(photos, chosen[0] ?? ''))
  await expect(staff.getByText('One of them was here already; it was not doubled.')).toBeVisible()
  await noSeriousFinding(staff)
})

test('photos are taken in hand by press, range and key, and stay there from station to station', async () => {
  await staff.getByRole('link', { name: /^Photos/ }).click()
  await expect(staff.locator('#frame-0 img')).toBeVisible()
  await noSeriousFinding(staff)
  await staff.locator('#frame-0').click()
  await staff.locator('#frame-4').click({ modifiers: ['Shift'] })
  await expect(staff.getByTestId('in-hand')).toHaveText('5 in hand')
  await staff.keyboard.press('ArrowRight')
  await staff.keyboard.press(' ')
  await expect(staff.getByTestId('in-hand')).toHaveText('6 in hand')
  await staff.getByRole('link', { name: /^Albums/ }).click()
  await staff.getByRole('link', { name: /^Photos/ }).click()
  await expect(staff.getByTestId('in-hand')).toHaveText('6 in hand')
})

test('what is in hand is tagged and put into a new album, and an act can be taken back', async () => {
  await staff.keyboard.press('t')
  await staff.getByRole('combobox', { name: 'Tag to add' }).fill('Opening day')
  await staff.keyboard.press('Enter')
  await expect(staff.getByText('Tagged 6 photos “Opening day”.')).toBeVisible()
  await staff.getByRole('button', { name: 'Undo' }).click()
  await expect(staff.getByText('Taken back.')).toBeVisible()
  await staff.keyboard.press('t')
  await staff.getByRole('combobox', { name: 'Tag to add' }).fill('opening  DAY')
  await staff.keyboard.press('Enter')
  await expect(staff.getByText('Tagged 6 photos', { exact: false })).toBeVisible()
  await staff.keyboard.press('Escape')
  await expect(staff.getByTestId('in-hand')).toHaveCount(0)
  await staff.locator('#frame-0').click()
  await staff.keyboard.press('End')
  await staff.keyboard.press('Home')
  await staff.locator('#frame-11').click({ modifiers: ['Shift'] })
  await staff.keyboard.press('a')
  await staff.getByRole('combobox', { name: 'Put into' }).fill('Regatta')
  await staff.getByRole('option', { name: 'New album “Regatta”' }).click()
  await expect(staff.getByText('Put 12 photos into Regatta.')).toBeVisible()
})

test('a category is made and given to what is in hand', async () => {
  await staff.getByRole('link', { name: 'Categories' }).click()
  await staff.getByRole('button', { name: 'New category' }).click()
  await staff.getByRole('textbox', { name: 'Name' }).last().fill('Season')
  await staff.keyboard.press('Enter')
  await expect(staff.getByText('0 photos')).toBeVisible()
  await staff.getByRole('button', { name: 'Add beneath' }).click()
  await staff.getByRole('textbox', { name: 'Name' }).last().fill('Spring')
  await staff.keyboard.press('Enter')
  await expect(staff.getByRole('button', { name: 'Move: Spring', exact: true })).toBeVisible()
  await noSeriousFinding(staff)
  await staff.getByRole('link', { name: /^Photos/ }).click()
  await staff.keyboard.press('g')
  await staff.getByRole('combobox', { name: 'Categorise' }).fill('Spr')
  await staff.keyboard.press('Enter')
  await expect(staff.getByText('Put 12 photos in category Spring.')).toBeVisible()
  await staff.keyboard.press('Escape')
})

test('words are edited on the plate where they stand, save by themselves, and a stale write loses nothing', async () => {
  await staff.locator('#frame-2').dblclick()
  await staff.getByRole('textbox', { name: 'Title' }).fill('Eights at the bridge')
  await expect(staff.getByText('Saved.')).toBeVisible()
  await noSeriousFinding(staff)
  const id = new URL(staff.url()).searchParams.get('photo')
  // A colleague writes while one's own words are on their way.
  let go = () => {}
  const written = new Promise<void>((done) => {
    go = done
  })
  const address = `/api/photos/${id}`
  await staff.route(`**${address}`, async (route) => {
    if (route.request().method() === 'PATCH') await written
    await route.continue()
  })
  const sent = staff.waitForRequest((r) => r.method() === 'PATCH')
  await staff.getByRole('textbox', { name: 'Caption' }).fill('Mine, with care')
  await sent
  const { forgery } = await (await staff.request.get('/api/session')).json()
  const { version } = await (await staff.request.get(address)).json()
  const theirs = await staff.request.patch(address, {
    headers: { 'If-Match': String(version), 'X-Jovitar-Forgery': forgery },
    data: { caption: 'Theirs' },
  })
  expect(theirs.status()).toBe(200)
  go()
  await expect(staff.getByText('Someone else changed this photo', { exact: false })).toBeVisible()
  await staff.unroute(`**${address}`)
  await expect(staff.getByRole('textbox', { name: 'Caption' })).toHaveValue('Mine, with care')
  await staff.getByRole('button', { name: 'Write mine over it' }).click()
  await expect(staff.getByText('Saved.')).toBeVisible()
  await staff.getByRole('textbox', { name: 'Caption' }).press('Escape')
  await staff.keyboard.press('ArrowRight')
  await expect(staff.getByText(/4 of 40/)).toBeVisible()
  await staff.keyboard.press('Escape')
  await expect(staff.locator('#frame-2')).toBeVisible()
})

test('an album is ordered by dragging and by typing a position, and gets a cover', async () => {
  await staff.getByRole('link', { name: /^Albums/ }).click()
  await staff.getByRole('link', { name: /Regatta/ }).first().click()
  await expect(staff.locator('#frame-11 img')).toBeVisible()
  await noSeriousFinding(staff)
  const name = (n: number) => staff.locator(`#frame-${n} [data-open]`).innerText()
  const [first, third] = [await name(0), await name(2)]
  const from = await staff.locator('#frame-2 .frame-picture').boundingBox()
  const to = await staff.locator('#frame-0 .frame-picture').boundingBox()
  if (!from || !to) throw new Error('frames have no place')
  await staff.mouse.move(from.x + 60, from.y + 60)
  await staff.mouse.down()
  await staff.mouse.move(to.x + 50, to.y + 60, { steps: 8 })
  await staff.mouse.move(to.x + 5, to.y + 60, { steps: 4 })
  await staff.mouse.up()
  await expect.poll(() => name(0)).toBe(third)
  expect(await name(1)).toBe(first)
  await staff.locator('#frame-0').click()
  await staff.keyboard.press('m')
  await staff.getByRole('spinbutton', { name: 'Position' }).fill('6')
  await staff.keyboard.press('Enter')
  await expect.poll(() => name(5)).toBe(third)
  await staff.keyboard.press('v')
  await expect(staff.getByText('Cover chosen.')).toBeVisible()
  await staff.keyboard.press('Escape')
})

test('a page is set up beside its preview and published in one act', async () => {
  await staff.getByRole('button', { name: 'Make a page' }).click()
  // An album has a title, too.
  await expect(staff).toHaveURL(/\/workroom\/pages\//)
  await staff.getByRole('textbox', { name: 'Title' }).fill('Regatta in spring')
  await staff.getByRole('textbox', { name: 'Address' }).fill('regatta')
  await staff.keyboard.press('Enter')
  const order = staff.getByRole('region', { name: 'Running order' })
  // A text is typed on the page itself, where it will stand.
  await order.getByRole('button', { name: /^Settings of Heading/ }).click()
  await order.getByRole('button', { name: 'text', exact: true }).click()
  const typed = staff.frameLocator('iframe[title^="Preview"]').locator('.ProseMirror')
  await typed.pressSequentially('Cold hands, ')
  await staff.keyboard.press('Control+b')
  await staff.keyboard.type('warm tea')
  await staff.keyboard.press('Control+b')
  await staff.keyboard.type('.')
  await staff.keyboard.press('Escape')
  await expect(order.getByRole('button', { name: /^Settings of Text: +4 words/ })).toBeVisible()
  await order.getByRole('button', { name: /^Settings of Photos/ }).click()
  await order.getByRole('button', { name: 'Filter bar' }).click()
  await staff.getByRole('button', { name: '+ category' }).click()
  await staff.getByRole('option', { name: /Season/ }).click()
  await staff.keyboard.press('Escape')
  await order.getByRole('button', { name: '+ another group' }).click()
  await order.getByRole('region', { name: 'Group 2' }).getByRole('button', { name: '+ tag' }).click()
  await staff.getByRole('combobox', { name: 'Which tag?' }).fill('opening')
  await staff.getByRole('option', { name: /^opening/i }).click()
  await staff.keyboard.press('Escape')
  const page = staff.frameLocator('iframe[title^="Preview"]')
  await expect(page.getByRole('heading', { name: 'Regatta in spring' })).toBeVisible()
  await expect(page.locator('strong')).toHaveText('warm tea')
  await expect(page.getByRole('link', { name: /^opening/i })).toBeVisible()
  await noSeriousFinding(staff)
  const answer = await staff.request.get('/regatta')
  expect(answer.status()).toBe(404)
  await staff.getByRole('button', { name: 'Publish' }).click()
  await expect(staff.getByText('Published. Everyone can see it.')).toBeVisible()
})

test('a visitor filters the page, walks the photos with keys, and comes back to where they were', async ({ page }) => {
  await page.goto('/')
  await expect(page.getByRole('link', { name: /Regatta in spring/ })).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('link', { name: /Regatta in spring/ }).click()
  await expect(page.getByRole('heading', { name: 'Regatta in spring' })).toBeVisible()
  // Opened again from the browser's store, the page must stand as before.
  await page.goto('/')
  await page.goto('/regatta')
  const tops = await page.locator('a.frame').evaluateAll((all) => new Set(all.map((f) => f.getBoundingClientRect().top)).size)
  expect(tops).toBeGreaterThan(1)
  const frames = page.locator('a.frame:not([hidden])')
  await expect(frames).toHaveCount(12)
  await noSeriousFinding(page)
  const reloads: string[] = []
  page.on('framenavigated', (frame) => reloads.push(frame.url()))
  await page.getByRole('link', { name: /^opening/i }).click()
  await expect(page.getByRole('status')).toHaveText('6 of 12 photographs')
  await expect(page).toHaveURL(/\?show=opening-day$/)
  await expect(frames).toHaveCount(6)
  expect(reloads.filter((url) => !url.includes('?show='))).toEqual([])
  await frames.nth(1).click()
  const viewer = page.getByRole('dialog')
  await expect(viewer).toBeVisible()
  await expect(page).toHaveURL(/\/regatta\/photo\//)
  await expect(viewer.getByText('2 of 6')).toBeVisible()
  await noSeriousFinding(page)
  await page.keyboard.press('ArrowRight')
  await expect(viewer.getByText('3 of 6')).toBeVisible()
  const address = page.url()
  await page.keyboard.press('Escape')
  await expect(viewer).toHaveCount(0)
  await expect(page).toHaveURL(/\/regatta\?show=opening-day$/)
  await expect(frames.nth(2)).toBeFocused()
  await page.goBack()
  await expect(page.getByRole('status')).toHaveText('12 photographs')
  await page.goto(address)
  await expect(page.getByRole('link', { name: 'Next' })).toBeVisible()
})

test('nothing moves when the script takes over', async ({ page }) => {
  await page.addInitScript(() => {
    const seen = { shift: 0 }
    Object.assign(window, { seen })
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries() as (PerformanceEntry & { value: number })[]) seen.shift += entry.value
    }).observe({ type: 'layout-shift', buffered: true })
  })
  await page.goto('/regatta', { waitUntil: 'networkidle' })
  const before = await page.locator('.frame').evaluateAll((all) => all.map((f) => JSON.stringify(f.getBoundingClientRect())))
  await page.waitForTimeout(600)
  const after = await page.locator('.frame').evaluateAll((all) => all.map((f) => JSON.stringify(f.getBoundingClientRect())))
  expect(after).toEqual(before)
  expect(await page.evaluate(() => (window as unknown as { seen: { shift: number } }).seen.shift)).toBe(0)
})

test('with scripts off the page shows every photo and filters by links', async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 390, height: 844 } })
  const page = await context.newPage()
  await page.goto('/regatta')
  await expect(page.locator('a.frame:not([hidden])')).toHaveCount(12)
  for (const img of await page.locator('.frame img').all()) {
    expect(Number(await img.getAttribute('width'))).toBeGreaterThan(0)
    expect(await img.getAttribute('alt')).not.toBe('')
  }
  const widest = await page.locator('.frame').evaluateAll((all) => Math.max(...all.map((f) => f.getBoundingClientRect().right)))
  expect(widest).toBeLessThanOrEqual(390)
  await page.getByRole('link', { name: /^opening/i }).click()
  await expect(page.getByText('6 of 12 photographs')).toBeVisible()
  await page.locator('a.frame:not([hidden])').first().click()
  await page.getByRole('link', { name: 'Next' }).click()
  await page.getByRole('link', { name: 'Regatta in spring', exact: true }).click()
  await expect(page.getByText('6 of 12 photographs')).toBeVisible()
  await context.close()
})

test('an address where nothing is gets a proper page', async ({ page }) => {
  const answer = await page.goto('/no-such-page')
  expect(answer?.status()).toBe(404)
  await expect(page.getByRole('heading', { name: 'There is no page here' })).toBeVisible()
})

test('ImageMagick agrees that a rendition is as wide as its address says', async ({ request }) => {
  const view = await (await request.get('/regatta')).text()
  const address = /src="(\/i\/[^"]+-480\.webp)"/.exec(view)?.[1] ?? ''
  const path = join(mkdtempSync(join(tmpdir(), 'rendition-')), 'a.webp')
  writeFileSync(path, await (await request.get(address)).body())
  expect(execFileSync('exiftool', ['-s3', '-ImageWidth', path]).toString().trim()).toBe('480')
})
