import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Browser, expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'
import { signIn } from './signIn'

// What is no photo stands on pages, too: videos, sounds and files; how somebody is reached; and a page without the site's head.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
const file = async (name: RegExp) => {
  await page.getByRole('combobox', { name: 'Which file?' }).fill(name.source)
  await page.getByRole('option', { name }).first().click()
}
const visit = async (browser: Browser, options = {}) => {
  const visitor = await browser.newPage(options)
  await visitor.goto('/to-see-and-hear')
  return visitor
}

oneMaker(async (next) => {
  page = next
  made = making(page)
  const folder = join(process.env.JOVITAR_ROOT ?? '../..', 'demo/files')
  for (const name of ['Night on the strand.webm', 'Twelve knots from the south-west.ogg'])
    await page.evaluate(
      async ({ name, bytes }) => {
        const { forgery } = (await (await fetch('/api/session')).json()) as { forgery: string }
        const headers = { 'X-Jovitar-Forgery': forgery }
        const made = await fetch('/api/intakes', { method: 'POST', headers: { ...headers, 'Content-Type': 'application/json' }, body: '{}' })
        const { id } = (await made.json()) as { id: string }
        const body = Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))
        await fetch(`/api/intakes/${id}/files?name=${encodeURIComponent(name)}`, { method: 'POST', headers: { ...headers, 'Content-Type': 'application/octet-stream' }, body })
      },
      { name, bytes: readFileSync(join(folder, name)).toString('base64') },
    )
})
test('a video, a sound, files and a contact are put on a page by keys, and stand there as visitors get them', async () => {
  await made.begin('To see and hear')
  await expect(made.seen.getByRole('heading', { name: 'To see and hear' })).toBeVisible()
  await made.add('video')
  await expect(made.seen.getByText('No video has been chosen yet.')).toBeVisible()
  await made.order.getByRole('button', { name: 'Choose a video…' }).click()
  await file(/Night on/)
  await expect(made.seen.locator('.film video')).toBeVisible()
  await made.order.getByRole('button', { name: 'Choose a photo…' }).click()
  // A photo that is not here yet is brought in where it is wanted, and stored once, as everywhere.
  const picker = page.getByRole('dialog', { name: 'Which photos?' })
  await picker.locator('input[type=file]').setInputFiles({ name: 'night still.jpg', mimeType: 'image/jpeg', buffer: execFileSync('convert', ['-size', '1600x900', '-seed', '7', 'plasma:navy-orange', 'jpg:-']) })
  await expect(picker.locator('li')).toHaveCount(1)
  await expect(picker.getByText('night still.jpg')).toBeVisible()
  await noSeriousFinding(page)
  await picker.locator('li button').click()
  await made.order.getByRole('textbox', { name: 'Words beneath it' }).fill('The night')
  await expect(made.seen.locator('a.play img')).toBeVisible()
  await made.add('sound')
  await made.order.getByRole('button', { name: 'Choose a sound…' }).click()
  await file(/Twelve/)
  await made.order.getByRole('textbox', { name: 'Words above it' }).fill('Twelve knots')
  await expect(made.seen.locator('audio')).toBeVisible()
  await made.add('files to save')
  await made.order.locator('input[type=file]').setInputFiles(join(process.env.JOVITAR_ROOT ?? '../..', 'demo/files/Rules of the stunt final.pdf'))
  await expect
    .poll(async () => (await (await page.request.get('/api/files?typed=rules')).json()).files.length)
    .toBe(1)
  await made.order.getByRole('button', { name: 'Choose a file…' }).click()
  await file(/Rules/)
  await made.order.getByRole('textbox', { name: 'What Rules of the stunt final.pdf is called' }).fill('The rules')
  await expect(made.seen.getByRole('link', { name: 'The rules' })).toBeVisible()
  await made.add('contact')
  await made.order.getByRole('textbox', { name: 'Name' }).fill('The boathouse')
  await made.order.getByRole('textbox', { name: 'Telephone' }).fill('by post')
  await expect(made.order).toContainText('A telephone number has digits')
  await made.order.getByRole('textbox', { name: 'Telephone' }).fill('+44 1632 960417')
  await made.order.getByRole('textbox', { name: 'Mail' }).fill('crew@sandling.example')
  await expect(made.seen.getByRole('link', { name: 'crew@sandling.example' })).toHaveAttribute('href', 'mailto:crew@sandling.example')
  await noSeriousFinding(page)
  await made.publish()
})

test('a video is fetched once it is played, a file is saved, and with scripts off links lead to both', async ({ browser }) => {
  const visitor = await visit(browser)
  const asked: string[] = []
  visitor.on('request', (r) => asked.push(decodeURI(r.url())))
  await visitor.reload()
  await expect(visitor.locator('a.play img')).toBeVisible()
  await noSeriousFinding(visitor)
  expect(asked.some((a) => a.includes('/file/'))).toBe(false)
  await visitor.getByRole('link', { name: 'Play The night' }).focus()
  await visitor.keyboard.press('Enter')
  await expect.poll(() => visitor.locator('.film video').evaluate((v) => (v as HTMLVideoElement).currentTime)).toBeGreaterThan(0)
  expect(asked.some((a) => a.includes('Night on the strand.webm'))).toBe(true)
  await visitor.locator('audio').evaluate((a) => (a as HTMLAudioElement).play())
  await expect.poll(() => visitor.locator('audio').evaluate((a) => (a as HTMLAudioElement).currentTime)).toBeGreaterThan(0)
  const saved = visitor.waitForEvent('download')
  await visitor.getByRole('link', { name: 'The rules' }).click()
  expect(readFileSync(await (await saved).path()).subarray(0, 5).toString()).toBe('%PDF-')
  await visitor.close()

  const plain = await visit(browser, { javaScriptEnabled: false, viewport: { width: 390, height: 844 } })
  await expect(plain.locator('a.play')).toHaveAttribute('href', /\/file\/.+\.webm$/)
  await expect(plain.getByRole('link', { name: '+44 1632 960417' })).toHaveAttribute('href', 'tel:+441632960417')
  expect(await plain.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await plain.close()
})

test('nothing is asked of where a video lies elsewhere before a visitor presses play', async ({ browser }) => {
  await made.line('Video').click()
  await made.choose('Where the video lies', 'elsewhere, at')
  await made.order.getByRole('textbox', { name: 'Address of the video' }).fill('http://films.example/1')
  await page.keyboard.press('Tab')
  await expect(made.order).toContainText('The address of a video begins with https://.')
  await made.order.getByRole('textbox', { name: 'Address of the video' }).fill('https://films.example/1')
  await page.keyboard.press('Tab')
  await made.publish()
  const visitor = await browser.newPage()
  const asked: string[] = []
  await visitor.route('https://films.example/**', (route) => {
    asked.push(route.request().url())
    return route.fulfill({ contentType: 'text/html', body: '<p>A film</p>' })
  })
  await visitor.goto('/to-see-and-hear')
  await expect(visitor.getByText('It is loaded from films.example once you press play')).toBeVisible()
  await noSeriousFinding(visitor)
  expect(asked).toEqual([])
  await visitor.getByRole('link', { name: 'Play The night' }).click()
  await expect(visitor.frameLocator('.film iframe').getByText('A film')).toBeVisible()
  expect(asked).toEqual(['https://films.example/1'])
  await visitor.close()
})

test('a page stands as wide as the window and without the site’s head, and who throws its file away is told', async ({ browser }) => {
  await page.getByRole('button', { name: 'About the page' }).click()
  await made.choose('Width of the page', 'It is as wide as the window')
  await made.choose('Head of the page', 'without the site’s name and menu')
  await made.publish()
  const visitor = await visit(browser, { viewport: { width: 2200, height: 900 } })
  await expect(visitor.locator('.site-head')).toHaveCount(0)
  expect(await visitor.locator('main').evaluate((m) => m.clientWidth)).toBeGreaterThan(2100)
  await page.goto('/workroom/files')
  await page.getByRole('button', { name: 'Throw Rules of the stunt final.pdf in the bin' }).click()
  await expect(page.getByRole('status').first()).toContainText('Visitors no longer find it on “To see and hear”.')
  await visitor.reload()
  await expect(visitor.getByRole('link', { name: 'The rules' })).toHaveCount(0)
  await page.getByRole('status').first().getByRole('button', { name: 'Undo' }).click()
  await expect(async () => {
    await visitor.reload()
    await expect(visitor.getByRole('link', { name: 'The rules' })).toBeVisible({ timeout: 500 })
  }).toPass()
  await visitor.close()
})

test('what was brought in comes to be seen, though the figures were known before the news of them came', async ({ browser }) => {
  const context = await browser.newContext()
  const late = await context.newPage()
  // News is kept back, and the latest of a kind is told when it is wanted.
  await late.addInitScript(() => {
    const kept = new Map<string, () => void>()
    let holds = false
    Object.assign(window, {
      holdNews: () => {
        holds = true
      },
      tell: (type: string) => kept.get(type)?.(),
    })
    const listen = EventSource.prototype.addEventListener
    EventSource.prototype.addEventListener = function (this: EventSource, type: string, listener: EventListener) {
      kept.set(type, () => listener(new Event(type)))
      listen.call(this, type, (e: Event) => (holds && type !== 'open' ? kept.set(type, () => listener(e)) : listener(e)))
    } as typeof listen
  })
  await signIn(late)
  const there = making(late)
  await there.begin('Late news')
  await there.add('one photo')
  await there.order.getByRole('button', { name: 'Choose a photo…' }).click()
  const picker = late.getByRole('dialog', { name: 'Which photos?' })
  await expect(picker.locator('li').first()).toBeVisible()
  await late.evaluate('holdNews()')
  // Answers from before it was there.
  let isEarly = true
  await late.route(/\/api\/photos\?.*intake=/, async (route) => (isEarly ? route.fulfill({ json: { ...(await (await route.fetch()).json()), photos: [], total: 0 } }) : route.continue()))
  // What the intake was like is asked for before the file is there, and told when no news will come of it.
  let isFirst = true
  await late.route(/\/api\/intakes\/[0-9a-f-]{36}$/, async (route) => {
    if (!isFirst) return route.continue()
    isFirst = false
    const early = await (await route.fetch()).json()
    await late.waitForTimeout(1500)
    return route.fulfill({ json: { ...early, intake: { ...early.intake, files: 0, ready: 0, waiting: 0, sending: 0, unpacking: 0, alreadyHere: 0 } } })
  })
  const done = late.waitForResponse(async (r) => /\/api\/intakes\/[0-9a-f-]{36}$/.test(r.url()) && (await r.json()).intake.ready === 1)
  await picker.locator('input[type=file]').setInputFiles({ name: 'late news.jpg', mimeType: 'image/jpeg', buffer: execFileSync('convert', ['-size', '900x600', '-seed', '13', 'plasma:olive-white', 'jpg:-']) })
  await done
  await expect(picker.getByRole('button', { name: 'not only what was brought in' })).toBeVisible()
  await expect(picker.getByRole('status')).toHaveText('')
  await expect(picker.locator('li')).toHaveCount(0)
  // Something else was done: what is open is read again, the figures too.
  await late.evaluate("tell('acts')")
  const { photos } = await (await late.request.get('/api/desk/figures')).json()
  await expect(late.locator('nav a[href="/workroom/photos"]')).toContainText(photos.toLocaleString('en'))
  await expect(picker.locator('li')).toHaveCount(0)
  isEarly = false
  await late.evaluate("tell('figures')")
  await expect(picker.locator('li')).toHaveCount(1)
  await expect(picker.getByText('late news.jpg')).toBeVisible()
  await context.close()
})
