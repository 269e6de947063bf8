import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'
import { weighsAsSaid } from './weighing'

// How the site looks: a theme is chosen and changed beside the real page, put on the site, and taken back.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})
const seen = () => page.frameLocator('iframe[title^="Preview"]')
const theme = (name: string) => page.getByRole('group', { name: 'Themes' }).getByRole('button', { name })
const groundOf = (of: Page) => of.evaluate(() => getComputedStyle(document.documentElement).backgroundColor)

test('each theme is seen on the real page before visitors have it', async ({ page: visitor }) => {
  await page.getByRole('link', { name: /^Pages/ }).click()
  await page.getByRole('link', { name: 'Look', exact: true }).click()
  await expect(theme('Catalogue')).toHaveAttribute('aria-pressed', 'true')
  await expect(page.getByText('Visitors have it like this.')).toBeVisible()
  for (const [name, ground] of [
    ['Chapbook', 'rgb(245, 238, 223)'],
    ['Bench', 'rgb(233, 237, 238)'],
    ['Lantern', 'rgb(15, 17, 19)'],
    ['Sailcloth', 'rgb(255, 210, 63)'],
    ['Ledger', 'rgb(255, 255, 255)'],
  ] as const) {
    await theme(name).click()
    await expect(seen().locator('html')).toHaveCSS('background-color', ground)
    await expect(seen().locator('main')).toBeVisible()
  }
  await expect(page.getByText('Saved. Visitors still have it as it was.')).toBeVisible()
  await visitor.goto('/')
  expect(await groundOf(visitor)).toBe('rgb(250, 250, 250)')
  await noSeriousFinding(page)
})

test('a page is seen at the three widths beside each other, and they scroll together', async () => {
  await page.getByRole('button', { name: 'All three' }).click()
  const frames = page.locator('iframe[title^="Preview"]')
  await expect(frames).toHaveCount(3)
  for (const width of [1280, 820, 390]) {
    const frame = page.frameLocator(`iframe[title$=", ${width}"]`)
    await expect(frame.locator('main')).toBeVisible()
    expect(await frame.locator('html').evaluate((html) => html.ownerDocument.defaultView?.innerWidth)).toBe(width)
  }
  await theme('Bench').click()
  for (const width of [1280, 820, 390]) await expect(page.frameLocator(`iframe[title$=", ${width}"]`).locator('html')).toHaveCSS('background-color', 'rgb(233, 237, 238)')
  const [desktop, phone] = [1280, 390].map((width) => page.frameLocator(`iframe[title$=", ${width}"]`).locator('html'))
  await desktop.evaluate((html) => {
    // A page that is long enough, however few photos there are.
    for (const each of Array.from(window.parent.frames)) each.document.body.style.minHeight = '400vh'
    html.ownerDocument.dispatchEvent(new WheelEvent('wheel'))
    html.scrollTop = html.scrollHeight
  })
  await expect.poll(() => phone.evaluate((html) => html.scrollTop)).toBeGreaterThan(100)
  await page.getByRole('button', { name: 'Desktop 1280' }).click()
  await expect(frames).toHaveCount(1)
})

test('what is set otherwise says so, is warned of where it cannot be read, and goes back to the theme', async () => {
  await theme('Sailcloth').click()
  await made.choose('Corners of photos', 'round by so many pixels:')
  await page.getByRole('textbox', { name: 'Corner ↖, pixels' }).fill('20')
  await page.keyboard.press('Tab')
  await expect(seen().locator('.frame img, .index img').first()).toHaveCSS('border-top-left-radius', '20px')
  await made.choose('Type of headings', 'Caveat, written by hand')
  await expect(seen().locator('h1, h2').first()).toHaveCSS('font-family', /Caveat/)
  const text = page.getByRole('textbox', { name: /^Text, light/ })
  await text.fill('#ffe9a8')
  const weak = page.getByRole('status').filter({ hasText: 'Text reads badly on the ground' })
  await expect(weak).toBeVisible()
  await weak.getByRole('button', { name: /^Take #/ }).click()
  await expect(weak).toHaveCount(0)
  await page.getByRole('button', { name: 'All as in the theme' }).click()
  await expect(text).toHaveValue('#1b1430')
  await expect(page.getByRole('button', { name: 'All as in the theme' })).toHaveCount(0)
  await expect(seen().locator('h1, h2').first()).toHaveCSS('font-family', /Unbounded/)
})

test('the buttons of a page are shown in every state, as its own sheets have them, while the look is set', async () => {
  await page.getByRole('link', { name: 'Look', exact: true }).click()
  await page.getByRole('combobox', { name: 'The page that is shown' }).selectOption({ label: 'Regatta in spring' })
  await page.getByRole('button', { name: 'Button states' }).click()
  const button = (name: string) => seen().locator('.states a', { hasText: name })
  await expect(seen().locator('.states a')).toHaveText(['Resting 12', 'Under the pointer 12', 'Pressed 12', 'Chosen 12', 'Reached by key 12'])
  const looks = () =>
    Promise.all(
      ['Resting', 'Under the pointer', 'Pressed', 'Chosen', 'Reached by key'].map((name) =>
        button(name).evaluate((a) => {
          const { borderBottomColor, backgroundColor, outlineStyle, fontWeight } = getComputedStyle(a)
          return [borderBottomColor, backgroundColor, outlineStyle, fontWeight].join(' ')
        }),
      ),
    )
  for (const shape of ['boxes.', 'words, the chosen one underlined.']) {
    await made.choose('Shape of what can be chosen', shape)
    await expect.poll(async () => new Set(await looks()).size).toBe(5)
  }
  // The sample is what visitors get: a real button under a real pointer looks the same.
  const real = seen().locator('.filter.open:not(.states) a:not([aria-current])').first()
  // The frame may be drawn once more under a pointer that rests, which is then nowhere until it moves; both are read of one drawing.
  await expect(async () => {
    await page.mouse.move(0, 0)
    await real.hover()
    const edge = await button('Under the pointer').evaluate((a) => getComputedStyle(a).borderBottomColor)
    await expect(real).toHaveCSS('border-bottom-color', edge, { timeout: 1000 })
  }).toPass()
  await page.getByRole('button', { name: 'Without states' }).click()
  await expect(seen().locator('.states')).toHaveCount(0)
  await page.getByRole('button', { name: 'Shape of what can be chosen: as in the theme' }).click()
  await expect(page.getByText(/^(Saved\.|Visitors have it like this\.)/)).toBeVisible()
})

test('put on the site it is on every page, at 1280 and 390, by day and by night, and can be taken back', async ({ browser }) => {
  await theme('Lantern').click()
  await made.choose('Light or dark', 'light or dark as the visitor’s device is')
  await page.getByRole('button', { name: 'Put it on the site' }).click()
  await expect(page.getByText('Visitors have it like this.')).toBeVisible()
  for (const colorScheme of ['light', 'dark'] as const)
    for (const width of [1280, 390]) {
      const visitor = await browser.newPage({ colorScheme, viewport: { width, height: 800 } })
      for (const path of ['/', '/regatta']) {
        await visitor.goto(path)
        expect(await groundOf(visitor)).toBe(colorScheme === 'dark' ? 'rgb(15, 17, 19)' : 'rgb(241, 239, 233)')
        await noSeriousFinding(visitor)
        const wide = await visitor.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
        expect(wide).toBeLessThanOrEqual(0)
      }
      await visitor.close()
    }
  // Every theme is as good to those who cannot see well.
  for (const name of ['Chapbook', 'Bench', 'Sailcloth', 'Ledger', 'Catalogue']) {
    await theme(name).click()
    await page.getByRole('button', { name: 'Put it on the site' }).click()
    await expect(page.getByText('Visitors have it like this.')).toBeVisible()
    const visitor = await browser.newPage({ colorScheme: name === 'Bench' ? 'dark' : 'light' })
    await visitor.goto('/regatta')
    await noSeriousFinding(visitor)
    await visitor.close()
  }
  await page.getByRole('button', { name: 'All as in the theme' }).click()
  await page.getByRole('button', { name: 'Put it on the site' }).click()
  await expect(page.getByText('Visitors have it like this.')).toBeVisible()
})

test('a page looks otherwise than the site, by itself, as long as it says so', async ({ page: visitor, browser }) => {
  await page.getByRole('link', { name: 'Regatta in spring', exact: true }).click()
  const look = page.getByRole('region', { name: 'Look of this page' })
  await page.getByRole('button', { name: 'Look of this page' }).click()
  await expect(look.getByRole('button', { name: 'As on the site' })).toHaveCount(0)
  await look.getByRole('textbox', { name: /^Ground, light/ }).fill('#101116')
  const weak = look.getByRole('status').filter({ hasText: 'Text reads badly on the ground' })
  await weak.getByRole('button', { name: /^Take #/ }).click()
  await expect(weak).toHaveCount(0)
  await expect(seen().locator('html')).toHaveCSS('background-color', 'rgb(16, 17, 22)')
  await look.getByRole('textbox', { name: 'Line around photos, pixels' }).fill('5')
  await page.keyboard.press('Tab')
  await expect(seen().locator('.frame img').first()).toHaveCSS('border-top-width', '5px')
  await made.choose('Shadow of photos', 'the shadow of a print held over it.')
  await made.choose('Ground of a photo that is opened', 'the page’s own ground.')
  await made.choose('Type of headings', 'Caveat, written by hand')
  await noSeriousFinding(page)

  // Visitors have it when the page is published, on its photos' own pages and in the viewer, too, and nowhere else.
  await visitor.goto('/regatta')
  expect(await groundOf(visitor)).toBe('rgb(250, 250, 250)')
  await made.publish()
  await visitor.reload()
  expect(await groundOf(visitor)).toBe('rgb(16, 17, 22)')
  await expect(visitor.locator('.frame').first()).not.toHaveCSS('box-shadow', 'none')
  await visitor.locator('.frame').first().click()
  await expect(visitor.getByRole('dialog')).toHaveCSS('background-color', 'rgb(16, 17, 22)')
  await noSeriousFinding(visitor)
  await visitor.goto('/')
  expect(await groundOf(visitor)).toBe('rgb(250, 250, 250)')
  // Its own type is weighed, too.
  await weighsAsSaid(browser, page, 'regatta')

  await look.getByRole('button', { name: 'Line around photos, pixels: as on the site' }).click()
  await expect(seen().locator('.frame img').first()).toHaveCSS('border-top-width', '0px')
  await look.getByRole('button', { name: 'All as on the site' }).click()
  await expect(seen().locator('html')).toHaveCSS('background-color', 'rgb(250, 250, 250)')
  await expect(look.getByRole('button', { name: /as on the site/i })).toHaveCount(0)
  await made.publish()
})

test('a block looks otherwise than its page, until it is as the page again', async ({ page: visitor }) => {
  await page.getByRole('link', { name: 'Look', exact: true }).click()
  await page.getByRole('link', { name: 'Regatta in spring', exact: true }).click()
  await made.line('Photos').first().click()
  await made.order.getByRole('button', { name: /^Look/ }).click()
  const photos = seen().locator('.photos.block')
  await made.choose('Shape of what can be chosen', 'boxes with round ends.')
  await expect(photos.locator('.filter li a').first()).toHaveCSS('border-top-left-radius', '34px')
  await made.order.getByRole('textbox', { name: 'Line around photos, pixels' }).fill('7')
  await page.keyboard.press('Tab')
  await expect(photos.locator('.frame img').first()).toHaveCSS('border-top-width', '7px')
  await made.order.getByRole('textbox', { name: /^Text, light/ }).fill('#d8d0c0')
  const weak = made.order.getByRole('status').filter({ hasText: 'Text reads badly on the ground' })
  await weak.getByRole('button', { name: /^Take #/ }).click()
  await expect(weak).toHaveCount(0)
  const colour = await photos.evaluate((block) => getComputedStyle(block).color)
  expect(colour).not.toBe(await seen().locator('body').evaluate((body) => getComputedStyle(body).color))
  await noSeriousFinding(page)

  await made.publish()
  await visitor.goto('/regatta')
  await expect(visitor.locator('.photos.block')).toHaveCSS('color', colour)
  await expect(visitor.locator('.site-head')).not.toHaveCSS('color', colour)
  await noSeriousFinding(visitor)

  // On a ground it has that one's colours, and says so.
  await made.order.getByRole('button', { name: /^Ground/ }).click()
  await made.choose('What lies behind it', 'a colour')
  await expect(made.order.getByText('Its words have the colours of what lies behind them.')).toBeVisible()
  await expect(photos).not.toHaveCSS('color', colour)
  await made.order.getByRole('button', { name: 'As usual again' }).click()
  await expect(photos).toHaveCSS('color', colour)
  await made.order.getByRole('button', { name: 'All as on the page' }).click()
  await expect(photos.locator('.frame img').first()).toHaveCSS('border-top-width', '0px')
  await made.publish()
})

test('who presses words on one of the pages beside each other types them on one page', async () => {
  await made.begin('Three at once')
  await expect(seen().getByRole('heading', { name: 'Three at once' })).toBeVisible()
  await page.getByRole('button', { name: 'All three' }).click()
  await page.frameLocator('iframe[title$=", 390"]').locator('.heading').first().click()
  await expect(page.locator('iframe[title^="Preview"]')).toHaveCount(1)
  await expect(seen().locator('.ProseMirror')).toBeFocused()
  await page.keyboard.press('End')
  await page.keyboard.type(' and sun')
  await expect(made.line('Heading').first()).toContainText('and sun')
  await page.keyboard.press('Escape')
  await expect(seen().locator('.heading').first()).toContainText('and sun')
})

test('a picture stands in place of the title and words at the foot, once they are put on the site', async ({ page: visitor }) => {
  await page.getByRole('link', { name: /^Pages/ }).click()
  await page.getByRole('link', { name: 'Look', exact: true }).click()
  const picture = page.getByLabel('Bring a picture', { exact: true }).last()
  await picture.setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('No picture at all.') })
  await expect(page.getByRole('alert')).toContainText('no picture that can stand in the head')
  const drawing = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 20"><path d="M0 0h60v20H0z" fill="#7e2758"/></svg>'
  await picture.setInputFiles({ name: 'logo.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing) })
  const logo = seen().locator('.site-head .site-title img')
  await expect(logo).toHaveJSProperty('naturalHeight', 240)
  await page.getByRole('textbox', { name: 'Height of the picture at the top, pixels' }).fill('30')
  await page.keyboard.press('Enter')
  await expect(logo).toHaveAttribute('width', '90')
  await page.getByRole('textbox', { name: 'At the foot of every page' }).fill('The boathouse. [Write to us](mailto:club@example.org)')
  await expect(seen().locator('.site-foot')).toContainText('The boathouse. Write to us')
  await expect(page.getByText('Saved. Visitors still have it as it was.')).toBeVisible()
  await visitor.goto('/')
  await expect(visitor.locator('.site-foot')).not.toContainText('The boathouse.')
  await page.getByRole('button', { name: 'Put it on the site' }).click()
  await expect(page.getByText('Visitors have it like this.')).toBeVisible()
  await visitor.reload()
  await expect(visitor.locator('.site-foot')).toContainText('The boathouse.')
  // Who cannot see it is read the title, and a press leads to the start.
  const home = visitor.getByRole('banner').getByRole('link', { name: /./ }).first()
  await expect(home.getByRole('img')).toHaveJSProperty('naturalHeight', 240)
  await expect(home).toHaveAttribute('href', '/')
  await noSeriousFinding(visitor)

  // As it was: the title, and at the foot the title, too.
  await page.getByRole('combobox', { name: 'What stands at the top' }).selectOption({ label: 'the title.' })
  await page.getByRole('textbox', { name: 'At the foot of every page' }).fill('')
  await expect(page.getByText('Saved. Visitors still have it as it was.')).toBeVisible()
  await page.getByRole('button', { name: 'Put it on the site' }).click()
  await expect(page.getByText('Visitors have it like this.')).toBeVisible()
  await visitor.reload()
  await expect(visitor.locator('.site-head img')).toHaveCount(0)
})
