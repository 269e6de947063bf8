import { execFileSync } from 'node:child_process'
import { copyFileSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser } from './signIn'

// Files, the bin, the desk and the pages' list: rooms one comes to from the others.
const photos = join(process.env.JOVITAR_ROOT ?? '.', 'demo/photos')
let page: Page
oneBrowser((next) => {
  page = next
})

const json = async (address: string) => (await page.request.get(address)).json()
const foot = () => page.getByRole('status').first()

async function bring(files: string[], says: string) {
  await page.goto('/workroom/intake')
  await page.getByLabel('Choose files', { exact: true }).last().setInputFiles(files)
  await expect(page.getByTestId('tally')).toContainText(says, { timeout: 30_000 })
}

/** Photographs nobody has brought before. */
function fresh(count: number, from: number) {
  const folder = mkdtempSync(join(tmpdir(), 'rooms-'))
  const names = readdirSync(photos).filter((n) => n.endsWith('.jpg')).sort().slice(from, from + count)
  return names.map((name) => {
    const path = join(folder, `room-${name}`)
    copyFileSync(join(photos, name), path)
    execFileSync('exiftool', ['-q', '-overwrite_original', `-Comment=${folder}`, path])
    return path
  })
}

test('a file is attached, taken off, thrown in the bin and taken back to where it stood', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'rooms-'))
  writeFileSync(join(folder, 'rules of the race.txt'), 'Whoever is first at the bridge waits there for the others.')
  writeFileSync(join(folder, 'results.csv'), 'boat,minutes\nHeron,12\n')
  await bring([join(folder, 'rules of the race.txt'), join(folder, 'results.csv')], '2 files kept')
  await page.goto('/workroom/files')
  const line = page.locator('li', { hasText: 'rules of the race.txt' })
  await expect(line).toContainText('text')
  await line.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('combobox', { name: 'Attach to' }).fill('Regatta')
  await page.keyboard.press('Enter')
  await expect(foot()).toContainText('Attached rules of the race.txt to Regatta.')
  await line.getByRole('button', { name: 'Take off Regatta' }).click()
  await expect(foot()).toContainText('Took rules of the race.txt off Regatta.')
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(line.getByRole('button', { name: 'Take off Regatta' })).toBeVisible()
  const saved = page.waitForEvent('download')
  await line.getByRole('link', { name: 'Save' }).click()
  expect(readFileSync(await (await saved).path(), 'utf8')).toContain('waits there for the others')
  await noSeriousFinding(page)
  await line.getByRole('button', { name: 'Throw rules of the race.txt in the bin' }).click()
  await expect(foot()).toContainText('Threw rules of the race.txt in the bin.')
  await expect(line).toHaveCount(0)
  await page.goto('/workroom/bin')
  await page.getByRole('button', { name: 'Take back: rules of the race.txt' }).click()
  await expect(foot()).toContainText('Took 1 thing back.')
  await page.goto('/workroom/files')
  await expect(line.getByRole('button', { name: 'Take off Regatta' })).toBeVisible()
})

test('the bin says how many it removes for good, can be thought better of, and removes just those', async () => {
  const [one = '', two = '', three = ''] = fresh(3, 60)
  await bring([one, two, three], '3 ready')
  const there = (await json('/api/photos?sort=arrived')).photos.map((p: { fileName: string }) => p.fileName)
  await page.goto('/workroom/photos?sort=arrived')
  for (const _ of [1, 2]) {
    await page.locator('#frame-0').click()
    await expect(page.getByTestId('in-hand')).toHaveText('1 in hand')
    const before = (await json('/api/bin')).total
    const thrown = (await page.locator('#frame-0').getAttribute('aria-label')) ?? ''
    await page.getByRole('button', { name: 'Throw in the bin' }).click()
    await expect(foot()).toContainText('Threw 1 photo in the bin.')
    await expect.poll(async () => (await json('/api/bin')).total).toBe(before + 1)
    // The next one comes to stand there once the sheet is read again.
    await expect(page.locator('#frame-0')).not.toHaveAttribute('aria-label', thrown)
  }
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(foot()).toContainText('Taken back.')
  const { total } = await json('/api/bin')
  await page.goto('/workroom/bin')
  await page.getByRole('button', { name: 'Empty the bin' }).click()
  await expect(page.getByRole('dialog')).toContainText(`Remove ${total} thing`)
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Keep them' }).click()
  expect((await json('/api/bin')).total).toBe(total)
  await page.getByRole('button', { name: 'Empty the bin' }).click()
  await page.getByRole('button', { name: 'Remove for good' }).click()
  await expect(foot()).toContainText(`Removed ${total} thing${total === 1 ? '' : 's'} for good.`)
  await expect(page.getByText('The bin is empty.')).toBeVisible()
  const now = (await json('/api/photos?sort=arrived')).photos.map((p: { fileName: string }) => p.fileName)
  expect(now).toHaveLength(there.length - 1)
  expect(there).toEqual(expect.arrayContaining(now))
})

test('what lies in the bin is found by the sentence of the sheet, and taken back from there', async () => {
  const [one = '', two = ''] = fresh(2, 70)
  await bring([one, two], '2 ready')
  const { photos: brought } = await json('/api/photos?q=room&sort=arrived')
  const forgery = (await json('/api/session')).forgery
  await page.request.post('/api/bin', { headers: { 'X-Jovitar-Forgery': forgery }, data: { photos: [brought[0].id] } })
  await page.goto('/workroom/photos?q=room')
  await page.getByRole('link', { name: '1 in the bin' }).click()
  await expect(page.getByRole('group', { name: 'What the sheet shows' })).toContainText('1 photo in the bin with “room”')
  // What empties all of it is not at hand while only a part is shown.
  await expect(page.getByRole('button', { name: 'Empty the bin' })).toHaveCount(0)
  await page.getByRole('button', { name: 'and…' }).click()
  await page.getByRole('button', { name: 'Source' }).click()
  await page.getByRole('button', { name: 'somebody’s computer' }).click()
  await expect(page.getByRole('group', { name: 'What the sheet shows' })).toContainText('from somebody’s computer')
  await page.getByRole('button', { name: 'Rating' }).click()
  await page.getByRole('region', { name: 'Rating' }).getByRole('listitem').first().getByRole('button').click()
  await page.getByRole('button', { name: 'Turn round: all but these' }).click()
  await expect(page.getByText('Nothing such lies in the bin.')).toBeVisible()
  await page.getByRole('button', { name: 'Leave this part out' }).click()
  await noSeriousFinding(page)
  await page.getByRole('button', { name: /^Take back: / }).click()
  await expect(foot()).toContainText('Took 1 thing back.')
  await page.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('link', { name: 'look among those that are not in the bin' }).click()
  await expect(page.getByRole('group', { name: 'What the sheet shows' })).toContainText('from somebody’s computer')
})

test('what could not be read stands on the desk with its reason and what helps', async () => {
  const [path = ''] = fresh(1, 66)
  // A file that breaks off in the middle is a photo until somebody looks closer.
  const broken = `${path.slice(0, -4)}-broken.jpg`
  const whole = readFileSync(path)
  writeFileSync(broken, whole.subarray(0, Math.floor(whole.length * 0.6)))
  await bring([broken], '1 not taken')
  await page.getByRole('link', { name: /^Desk/ }).click()
  const failed = page.locator('section', { has: page.getByRole('heading', { name: 'Failed' }) })
  await expect(failed).toContainText('1 photo')
  await expect(failed).toContainText('broken.jpg')
  await noSeriousFinding(page)
  const again = page.waitForResponse((r) => r.url().endsWith('/api/intakes/retry'))
  await failed.getByRole('button', { name: 'Try again' }).click()
  expect((await again).status()).toBe(200)
  await expect(foot()).toContainText('put back to work')
  // It fails again, in the same words, and is thrown away from the plate.
  await expect(failed).toContainText('broken.jpg', { timeout: 20_000 })
  await expect.poll(async () => (await json('/api/desk')).failed.length).toBeGreaterThan(0)
  const [{ photos: ids }] = (await json('/api/desk')).failed
  await page.goto(`/workroom/photos?photo=${ids[0]}`)
  await expect(page.getByText('This photo could not be made ready.')).toBeVisible()
  await noSeriousFinding(page)
})

test('the desk leads to what is still to be described, to albums shown nowhere, and to their page', async () => {
  await page.goto('/workroom/photos?sort=arrived')
  await page.locator('#frame-0').click()
  await page.keyboard.press('a')
  await page.getByRole('combobox', { name: 'Put into' }).fill('Shown nowhere yet')
  await page.keyboard.press('Enter')
  await expect(foot()).toContainText('Shown nowhere yet')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: /^Desk/ }).click()
  const nowhere = page.locator('section', { has: page.getByRole('heading', { name: 'Shown nowhere' }) })
  await expect(nowhere).toContainText('Shown nowhere yet')
  await nowhere.locator('li', { hasText: 'Shown nowhere yet' }).getByRole('button', { name: 'Make a page' }).click()
  await expect(page.getByRole('textbox', { name: 'Address' })).toHaveValue('shown-nowhere-yet')
  await page.getByRole('link', { name: /^Pages/ }).click()
  const line = page.locator('main').getByRole('link', { name: /Shown nowhere yet/ })
  await expect(line).toContainText('/shown-nowhere-yet, 1 photo')
  await expect(line).toContainText('Draft', { ignoreCase: true })
  await noSeriousFinding(page)
  await line.click()
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(foot()).toContainText('Published.')
  await page.getByRole('link', { name: /^Desk/ }).click()
  await expect(nowhere).not.toContainText('Shown nowhere yet')
  const describe = page.locator('section', { has: page.getByRole('heading', { name: 'To be described' }) })
  await describe.getByRole('link').first().click()
  await expect(page).toHaveURL(/\/workroom\/photos\?/)
  const shown = Number(await page.locator('#frame-0').getAttribute('aria-setsize'))
  expect(shown).toBe((await json('/api/desk')).figures.photosWithoutTitle)
})

test('an album is renamed where it stands, described, and says of itself who can see it', async () => {
  await page.goto('/workroom/albums')
  await page.locator('main').getByRole('link', { name: /Shown nowhere yet/ }).click()
  await expect(page.getByText(/Everyone can see this/).first()).toBeVisible()
  const name = page.getByRole('textbox', { name: 'Working name' })
  await name.fill('Evening at the weir')
  await name.press('Enter')
  await expect.poll(async () => (await json('/api/albums')).albums.map((a: { workingName: string }) => a.workingName)).toContain('Evening at the weir')
  await noSeriousFinding(page)
  const photo = (await json('/api/photos?sort=arrived')).photos[0].id
  await page.locator('#frame-0').dblclick()
  await expect(page).toHaveURL(new RegExp(photo))
  await expect(page.getByText(/Evening at the weir/).first()).toBeVisible()
  await page.keyboard.press('Escape')
  await page.locator('#frame-0').click()
  await page.keyboard.press('o')
  await expect(foot()).toContainText('Took 1 photo out of this album. They stay everywhere else.')
  await expect(page.locator('#frame-0')).toHaveCount(0)
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(page.locator('#frame-0')).toBeVisible()
})

test('a chooser is walked with arrows, finds by any part of a name, and makes what is not there', async () => {
  await page.goto('/workroom/photos?sort=arrived')
  await page.locator('#frame-0').click()
  await page.keyboard.press('a')
  const field = page.getByRole('combobox', { name: 'Put into' })
  await field.fill('weir')
  const options = page.getByRole('listbox', { name: 'Put into' }).getByRole('option')
  await expect(options.first()).toContainText('Evening at the weir')
  const active = () => field.getAttribute('aria-activedescendant')
  const first = await active()
  await page.keyboard.press('ArrowDown')
  await expect.poll(active).not.toBe(first)
  await page.keyboard.press('ArrowUp')
  await expect.poll(active).toBe(first)
  await noSeriousFinding(page)
  // A name that is there is offered once and cannot be made a second time, however it is written.
  await field.fill('  evening AT the weir ')
  await expect(options.filter({ hasText: 'New album' })).toHaveCount(0)
  await field.fill('Nobody called one so')
  await expect(options.filter({ hasText: 'New album “Nobody called one so”' })).toHaveCount(1)
  await page.keyboard.press('Escape')
  await expect(field).toHaveCount(0)
  expect((await json('/api/albums')).albums.map((a: { workingName: string }) => a.workingName)).not.toContain('Nobody called one so')
})
