import { execFileSync } from 'node:child_process'
import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { signIn } from './signIn'

const photos = join(process.env.JOVITAR_ROOT ?? '.', 'demo/photos')
const names = readdirSync(photos)
  .filter((name) => name.endsWith('.jpg'))
  .sort()

/** A folder of photographs nobody has brought before: the demo's, each with a comment of its own (ITU-T T.81 B.2.4.5). */
function folderOf(count: number, from = 0) {
  const folder = join(mkdtempSync(join(tmpdir(), 'evening-')), 'Second evening')
  mkdirSync(join(folder, 'pier'), { recursive: true })
  for (const [n, name] of names.slice(from, from + count).entries()) {
    const jpeg = readFileSync(join(photos, name))
    const comment = Buffer.from(`\xff\xfe\0\0${folder}`, 'latin1')
    comment.writeUInt16BE(comment.length - 2, 2)
    writeFileSync(
      join(folder, n % 3 === 0 ? 'pier' : '', name),
      Buffer.concat([jpeg.subarray(0, 2), comment, jpeg.subarray(2)]),
    )
  }
  return folder
}

/** The latest intake as the server has it. */
async function latest(page: Page) {
  return (await (await page.request.get('/api/intakes')).json()).intakes[0]
}

const folderField = (page: Page) => page.locator('input[webkitdirectory]')

test.beforeEach(async ({ page }) => signIn(page))

test('a folder arrives whole over a line that breaks again and again', async ({ page }) => {
  // Every third request of an upload is cut off, by tus-js-client's own retries made good.
  let asked = 0
  let broken = 0
  await page.route('**/api/uploads**', async (route) => {
    if (++asked % 3 === 0 && broken < 25) {
      broken++
      await route.abort('connectionreset')
    } else await route.continue()
  })
  await page.goto('/workroom/intake')
  await folderField(page).setInputFiles(folderOf(30))
  await expect(page.getByTestId('tally')).toContainText('30 ready', { timeout: 80_000 })
  expect(broken).toBeGreaterThan(8)
  const line = await latest(page)
  expect({ files: line.files, ready: line.ready, failed: line.failed, sending: line.sending }).toEqual({ files: 30, ready: 30, failed: 0, sending: 0 })
  const files = await (await page.request.get(`/api/intakes/${line.id}/files`)).json()
  expect(files.files.filter((f: { path: string }) => f.path === 'Second evening/pier')).toHaveLength(10)
  await page.getByRole('button', { name: /^Every file/ }).click()
  await noSeriousFinding(page)
})

test('after a reload the same folder goes on where it stopped, and nothing is there twice', async ({ page }) => {
  const folder = folderOf(24, 40)
  const slow = await page.context().newCDPSession(page)
  await slow.send('Network.enable')
  await slow.send('Network.emulateNetworkConditions', { offline: false, latency: 5, downloadThroughput: -1, uploadThroughput: 600_000 })
  await page.goto('/workroom/intake')
  await folderField(page).setInputFiles(folder)
  await expect.poll(async () => (await latest(page)).files, { timeout: 40_000 }).toBeGreaterThan(4)
  await page.getByRole('button', { name: 'Pause' }).click()
  await expect(page.getByText('Paused. What is here stays here.')).toBeVisible()
  await page.getByRole('button', { name: 'Go on' }).click()
  page.on('dialog', (dialog) => void dialog.accept())
  await page.reload()
  await slow.send('Network.emulateNetworkConditions', { offline: false, latency: 0, downloadThroughput: -1, uploadThroughput: -1 })
  await expect(page.getByText(/An intake was interrupted: \d+ of 24 files are here/)).toBeVisible()
  await noSeriousFinding(page)
  await folderField(page).setInputFiles(folder)
  await expect(page.getByTestId('tally')).toContainText('24 ready', { timeout: 60_000 })
  const line = await latest(page)
  expect({ files: line.files, ready: line.ready, sending: line.sending }).toEqual({ files: 24, ready: 24, sending: 0 })
})

test('where an intake goes is said once, changed afterwards, and all of it is taken back and brought back', async ({ page }) => {
  await page.goto('/workroom/intake')
  await page.getByRole('button', { name: 'no album yet' }).click()
  await page.getByRole('combobox', { name: 'They go into' }).fill('Second evening')
  await page.getByRole('option', { name: 'New album “Second evening”' }).click()
  await expect(page.getByRole('button', { name: 'Second evening' })).toBeVisible()
  await page.getByRole('button', { name: '+ tag' }).click()
  await page.getByRole('combobox', { name: '+ tag' }).fill('dusk over the bay')
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'Credit' }).fill('Ines Calloway')
  await page.keyboard.press('Enter')
  await folderField(page).setInputFiles(folderOf(6, 70))
  await expect(page.getByTestId('tally')).toContainText('6 ready', { timeout: 30_000 })
  await page.getByRole('link', { name: /^Albums/ }).click()
  await page.getByRole('link', { name: /Second evening/ }).first().click()
  await expect(page.locator('#frame-5 img')).toBeVisible()
  await page.locator('#frame-0').dblclick()
  await expect(page.getByRole('textbox', { name: 'Credit' })).toHaveValue('Ines Calloway')
  await expect(page.getByText('dusk over the bay')).toBeVisible()
  const line = await latest(page)
  await page.goto(`/workroom/intake/${line.id}`)
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Take this intake back' }).click()
  await page.getByRole('button', { name: 'Put 6 photos in the bin' }).click()
  await expect(page.getByText('Took the intake back: 6 photos in the bin.')).toBeVisible()
  expect((await (await page.request.get('/api/bin')).json()).things).toHaveLength(6)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('Taken back.')).toBeVisible()
  expect((await (await page.request.get('/api/bin')).json()).things).toHaveLength(0)
  await page.goto('/workroom/bin')
  await expect(page.getByText('The bin is empty.')).toBeVisible()
})

test('pictures that look nearly the same stand side by side, are decided on by key, and that can be undone', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'again-'))
  for (const name of names.slice(80, 82)) execFileSync('/usr/bin/convert', [join(photos, name), '-resize', '900x', '-quality', '80', join(folder, `small-${name}`)])
  for (const name of names.slice(80, 82)) copyFileSync(join(photos, name), join(folder, name))
  await page.goto('/workroom/intake')
  await page.getByLabel('Choose files', { exact: true }).last().setInputFiles(readdirSync(folder).map((n) => join(folder, n)))
  await expect(page.getByTestId('tally')).toContainText('4 ready', { timeout: 30_000 })
  await page.getByRole('link', { name: /^Photos/ }).click()
  await page.getByRole('link', { name: /^Nearly the same/ }).click()
  await expect(page.getByText(/^Group 1 of/)).toBeVisible()
  const groups = Number((await page.getByText(/^Group 1 of/).innerText()).split(' ').at(-1))
  await noSeriousFinding(page)
  await page.getByRole('button', { name: /^Press a picture/ }).first().click()
  await expect(page.getByRole('button', { name: 'See them whole' }).first()).toBeVisible()
  await page.keyboard.press('Enter')
  await page.mouse.click(5, 5)
  await page.getByRole('button', { name: /^Keep 1, leave out 1/ }).click()
  await expect(page.getByText('Kept 1; left 1 photo out everywhere.')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  // What is read again may still show the group as it was before either.
  await expect(page.getByText('Taken back.')).toBeVisible()
  await expect(page.getByText(`Group 1 of ${groups}`)).toBeVisible()
  await page.keyboard.press('k')
  await expect(page.getByText('Kept all 2.')).toBeVisible()
  // Decided or not, they are seen again from one of them, and one comes back to where one was.
  await page.goto('/workroom/photos?sort=arrived')
  await page.locator('#frame-0 [data-open]').click()
  await expect(page.getByRole('link', { name: '1 photo looks nearly the same.' })).toBeVisible()
  await page.keyboard.press('q')
  await expect(page.getByText('All that look like this one')).toBeVisible()
  await noSeriousFinding(page)
  await expect(page.getByRole('button', { name: 'Only the sharpest' })).toBeVisible()
  await page.keyboard.press('q')
  await page.getByRole('button', { name: /^Keep 1, leave out 1/ }).click()
  await expect(page.getByRole('link', { name: '1 photo looks nearly the same.' })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.locator('#frame-9').focus()
  await page.keyboard.press('q')
  await expect(page.getByText('Nothing looks nearly the same as this photo.')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.locator('#frame-9')).toBeVisible()
})

test('a print is scanned, looked at and kept', async ({ page }) => {
  await page.goto('/workroom/intake/scanner')
  await page.getByLabel('Resolution').selectOption('150')
  await page.getByRole('button', { name: 'Scan', exact: true }).click()
  await expect(page.getByAltText('Scanned page 1')).toBeVisible({ timeout: 30_000 })
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Keep it' }).click()
  await expect(page.getByText('Kept 1 photo.')).toBeVisible()
  await page.getByLabel('From').selectOption('feeder')
  for (let sheets = 3; sheets > 0; sheets = 0) {
    await page.getByRole('button', { name: 'Scan', exact: true }).click()
    await expect(page.getByRole('button', { name: 'Keep all 3' })).toBeVisible({ timeout: 30_000 })
  }
  await page.getByRole('button', { name: 'Scan', exact: true }).click()
  await expect(page.getByRole('alert')).toContainText('There is no paper in the feeder of Clubhouse scanner.')
})

test('files that are no photos are listed, attached to an album and kept from running', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'files-'))
  writeFileSync(join(folder, 'programme.txt'), 'Kites at ten, tea at four.')
  await page.goto('/workroom/intake')
  await page.getByLabel('Choose files', { exact: true }).last().setInputFiles(join(folder, 'programme.txt'))
  await expect(page.getByTestId('tally')).toContainText('1 file kept')
  await page.goto('/workroom/files')
  await page.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('combobox', { name: 'Attach to' }).fill('Regatta')
  await expect(page.getByRole('option', { name: /Regatta/ }).first()).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByText('Attached programme.txt to Regatta.')).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('link', { name: /^Albums/ }).click()
  await page.getByRole('link', { name: /Regatta/ }).first().click()
  await page.getByRole('button', { name: 'Files (1)' }).click()
  await expect(page.getByRole('region', { name: 'Files' }).getByText('programme.txt')).toBeVisible()
})

test('a folder on the server is watched, and what is put into it comes in by itself', async ({ page }) => {
  await page.goto('/workroom/intake/folders')
  await page.getByLabel('Its name becomes').selectOption('album')
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Watch it' }).click()
  await expect(page.getByText('Watching Club computer.')).toBeVisible()
  execFileSync('/usr/bin/convert', [join(photos, names[90] ?? ''), '-resize', '1000x', join(process.env.JOVITAR_E2E_DATA ?? '', 'watched/Club computer/from-the-club.jpg')])
  await expect(page.getByText('1 file taken in')).toBeVisible({ timeout: 40_000 })
  await page.getByRole('link', { name: /^Albums/ }).click()
  await expect(page.getByRole('link', { name: /Club computer/ }).first()).toBeVisible()
})
