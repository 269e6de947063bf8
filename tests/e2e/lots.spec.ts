import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// Photos drawn by lot: another handful for every visit, and one draw as long as a visit lasts.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})
const shown = (of: Page) => of.locator('.frames a.frame').evaluateAll((all) => all.sort((a, b) => Number((a as HTMLElement).dataset.place) - Number((b as HTMLElement).dataset.place)).map((a) => (a as HTMLElement).dataset.id))

test('a handful is drawn anew for every visit, and stays while one is there', async ({ browser }) => {
  await made.begin('Drawn by lot')
  await made.add('photos')
  await made.order.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /Regatta/ }).first().click()
  await made.order.getByRole('combobox', { name: 'Order of the photos' }).selectOption('an order drawn for every visit')
  await made.order.getByRole('combobox', { name: 'How many' }).selectOption('at most')
  await made.order.getByRole('textbox', { name: 'Largest number' }).fill('5')
  await page.keyboard.press('Tab')
  await expect(made.order).toContainText('Who comes again finds another 5.')
  await expect(made.seen.locator('.frames a.frame')).toHaveCount(5)
  await noSeriousFinding(page)
  await made.publish()

  const draws = new Set<string>()
  for (let visit = 0; visit < 6; visit++) {
    const context = await browser.newContext()
    const visitor = await context.newPage()
    await visitor.goto('/drawn-by-lot')
    await expect(visitor.locator('.frames a.frame')).toHaveCount(5)
    const drawn = await shown(visitor)
    draws.add(drawn.join())
    // They stand as they are shaped, and nothing else is seen there.
    expect(await visitor.locator('.frames').innerText()).toBe('')
    const shapes = await visitor.locator('.frames a.frame').evaluateAll((all) => all.map((a) => (a.clientWidth / a.clientHeight) * (Number((a as HTMLElement).dataset.h) / Number((a as HTMLElement).dataset.w))))
    for (const shape of shapes) expect(Math.abs(shape - 1)).toBeLessThan(0.03)
    if (visit === 0) {
      await noSeriousFinding(visitor)
      // The viewer walks the same five, and closed, one is where one was.
      await visitor.locator('.frames a.frame[data-place="1"]').click()
      await expect(visitor.getByRole('dialog').getByText('2 of 5')).toBeVisible()
      await visitor.keyboard.press('ArrowRight')
      await expect(visitor.getByRole('dialog').getByText('3 of 5')).toBeVisible()
      expect(visitor.url()).toContain(drawn[2] ?? 'nothing')
      // By its address a photo has the same neighbours, and leads back to the same page.
      const alone = await context.newPage()
      await alone.goto(visitor.url())
      await expect(alone.locator('a[rel="next"]')).toHaveAttribute('href', new RegExp(drawn[3] ?? 'nothing'))
      await alone.close()
      await visitor.keyboard.press('Escape')
      await expect(visitor.getByRole('dialog')).toHaveCount(0)
      expect(await shown(visitor)).toEqual(drawn)
    }
    await visitor.reload()
    await expect(visitor.locator('.frames a.frame')).toHaveCount(5)
    expect(await shown(visitor)).toEqual(drawn)
    await context.close()
  }
  expect(draws.size).toBeGreaterThan(2)
})

test('with scripts off, or where the line is down, a handful stands there as well', async ({ browser }) => {
  const plain = await browser.newPage({ javaScriptEnabled: false })
  await plain.goto('/drawn-by-lot')
  await expect(plain.locator('a.frame img').first()).toBeVisible()
  expect(await plain.locator('a.frame').evaluateAll((all) => all.every((a) => a.getBoundingClientRect().width > 50))).toBe(true)
  await plain.close()
  const visitor = await browser.newPage()
  await visitor.route('**/site/view/**', (route) => route.abort())
  await visitor.goto('/drawn-by-lot')
  await expect(visitor.locator('a.frame img').first()).toBeVisible()
  expect(await visitor.locator('a.frame').count()).toBe(5)
  await visitor.close()
})

test('a window that changes before the draw has come shows that draw once', async ({ browser }) => {
  const visitor = await browser.newPage()
  let asked = 0
  await visitor.route('**/site/view/**', async (route) => {
    asked++
    await new Promise((later) => setTimeout(later, 900))
    await route.continue()
  })
  await visitor.goto('/drawn-by-lot')
  await visitor.setViewportSize({ width: 700, height: 800 })
  await expect.poll(() => asked).toBe(2)
  await expect(visitor.locator('a.frame')).toHaveCount(5)
  await visitor.unrouteAll({ behavior: 'wait' })
  const drawn = await shown(visitor)
  expect(new Set(drawn).size).toBe(5)
  await visitor.reload()
  await expect(visitor.locator('a.frame')).toHaveCount(5)
  expect(await shown(visitor)).toEqual(drawn)
  await visitor.close()
})

test('slides are drawn by lot, too, and all of them are leafed through', async ({ browser }) => {
  await made.order.getByRole('combobox', { name: 'Layout', exact: true }).selectOption('slides')
  await made.order.getByRole('combobox', { name: 'How many' }).selectOption('all of them')
  await made.publish()
  const visitor = await browser.newPage()
  await visitor.goto('/drawn-by-lot')
  const many = Number(await visitor.locator('.slides').getAttribute('data-shown'))
  const seen = new Set<string | null>()
  for (let i = 1; i <= many; i++) {
    await expect(visitor.getByText(`${i} of ${many}`)).toBeVisible()
    await expect(visitor.locator('.slides .frame.on')).toBeVisible()
    seen.add(await visitor.locator('.slides .frame.on').getAttribute('data-id'))
    if (i < many) await visitor.getByRole('button', { name: 'Next photo' }).click()
  }
  expect(seen.size).toBe(many)
  await visitor.close()
})

test('one photo that stands for an album is drawn for every visit, in the shape of its cover', async ({ browser }) => {
  await made.add('one photo')
  await made.order.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /Regatta/ }).first().click()
  await made.order.getByRole('combobox', { name: 'Which photo stands there' }).selectOption('one of its photos, drawn for every visit')
  await expect(made.seen.locator('.drawn a.frame')).toHaveCount(1)
  await noSeriousFinding(page)
  await made.publish()
  const [drawn, shapes] = [new Set<string | null>(), new Set<string>()]
  for (let visit = 0; visit < 6; visit++) {
    const visitor = await browser.newPage()
    await visitor.goto('/drawn-by-lot')
    const one = visitor.locator('.drawn a.frame')
    drawn.add(await one.getAttribute('data-id'))
    shapes.add(await one.evaluate((a) => `${a.clientWidth} ${Math.round(a.clientHeight)}`))
    if (visit === 0) {
      await noSeriousFinding(visitor)
      await one.click()
      await expect(visitor.getByRole('dialog').getByText(/^1 of /)).toBeVisible()
      await visitor.keyboard.press('Escape')
      await expect(visitor.getByRole('dialog')).toHaveCount(0)
    }
    await visitor.close()
  }
  expect(drawn.size).toBeGreaterThan(1)
  expect(shapes.size).toBe(1)
  const plain = await browser.newPage({ javaScriptEnabled: false })
  await plain.goto('/drawn-by-lot')
  await expect(plain.locator('.drawn a.frame img')).toBeVisible()
  expect([...shapes][0]).toBe(await plain.locator('.drawn a.frame').evaluate((a) => `${a.clientWidth} ${Math.round(a.clientHeight)}`))
  await plain.close()
})
