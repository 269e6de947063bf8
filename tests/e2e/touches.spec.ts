import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// The words that stand with photos, what becomes of a photo that is touched, and how photos enter.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})
const saved = () => expect(page.getByRole('status').filter({ hasText: 'Saved.' })).toBeVisible()
const fold = (name: RegExp) => made.order.getByRole('button', { name }).first()
const device = (name: string) => made.order.getByRole('button', { name, exact: true }).last()
const styleOf = (of: ReturnType<Page['locator']>, what: string) => of.evaluate((element, name) => getComputedStyle(element).getPropertyValue(name), what)

test('an author says which words stand with photos and when, for a phone apart, and sees them as if touched', async () => {
  await made.begin('By touch')
  await made.add('photos')
  await made.order.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /Regatta/ }).first().click()
  await fold(/^Words with the photos/).click()
  await made.choose('What the second line says', 'its credit')
  await made.choose('When the first line stands there', 'under the photo.')
  await made.choose('When the second line stands there', 'over the photo while it is touched.')
  const over = made.seen.locator('a.frame .over').first()
  await expect(over).toHaveCSS('opacity', '0')
  await expect(made.seen.locator('a.frame .under').first()).toBeVisible()
  await page.getByRole('button', { name: 'As if touched' }).click()
  await expect(over).toHaveCSS('opacity', '1')

  // What cannot be read is said: over the photos it is mended by one press, beneath them by another colour.
  await made.choose('Colour of the words', 'a colour of their own:')
  await made.order.getByRole('textbox', { name: /^Colour of the words/ }).fill('#8a8a8a')
  const note = made.order.getByRole('list', { name: 'Notes in the margin' }).getByRole('listitem').filter({ hasText: 'The words with the photos read badly on a desktop' })
  await expect(note).toBeVisible()
  const hide = note.getByRole('button', { name: /^Hide \d+ percent$/ })
  await hide.click()
  await expect(hide).toHaveCount(0)
  await made.choose('Colour of the words', 'whatever reads well.')
  await expect(note).toHaveCount(0)

  // A phone is set apart: there the first line stands nowhere.
  await device('Phone').click()
  await made.order.getByRole('button', { name: 'Set it apart' }).click()
  await made.choose('When the first line stands there', 'nowhere.')
  await page.getByRole('button', { name: 'Phone 390' }).click()
  await expect(made.seen.locator('a.frame .over').first()).toBeVisible()
  await expect(made.seen.locator('a.frame .under').first()).toBeHidden()
  await page.getByRole('button', { name: 'Desktop 1280' }).click()

  await fold(/^When a photo is touched/).click()
  await made.choose('Whether it comes nearer', 'comes nearer by')
  await made.choose('How words come over it', 'from the side the pointer came.')
  await made.choose('How photos come into view', 'rise a little.')
  await expect(made.seen.locator('a.frame img').first()).toHaveCSS('scale', '1.06')
  await saved()
  await noSeriousFinding(page)
  await made.publish()
})

test('a visitor reads them by pointer and by keys, and what stands beneath is never cut off', async ({ page: visitor, browser }) => {
  await visitor.goto('/by-touch')
  const frame = visitor.locator('a.frame').nth(1)
  const over = frame.locator('.over')
  await expect(over).toHaveCSS('opacity', '0')
  await frame.focus()
  await visitor.keyboard.press('Shift')
  await expect(over).toHaveCSS('opacity', '1')
  await expect(frame.locator('img')).toHaveCSS('scale', '1.06')
  await visitor.locator('a.frame').nth(2).focus()
  await expect(over).toHaveCSS('opacity', '0')
  // It comes in at the left side, and so do the words.
  const box = await frame.boundingBox()
  if (!box) throw new Error('the photo has no place')
  await visitor.mouse.move(box.x - 3, box.y + box.height / 2)
  await visitor.mouse.move(box.x + 4, box.y + box.height / 2)
  await expect(over).toHaveCSS('opacity', '1')
  expect(await styleOf(frame, '--from-x')).toBe('-100%')
  // Nothing moves where nothing is to move.
  expect(await styleOf(over, 'transition-duration')).toBe('0s')
  await noSeriousFinding(visitor)

  for (const javaScriptEnabled of [true, false])
    for (const width of [1599, 1280, 1024, 600]) {
      const other = await browser.newPage({ javaScriptEnabled, viewport: { width, height: 800 } })
      await other.goto('/by-touch')
      const under = other.locator('a.frame .under')
      await expect(under.first()).toBeVisible()
      const cut = await under.evaluateAll((all) =>
        all.flatMap((words) => {
          const line = words.querySelector('.one')
          const picture = words.parentElement?.querySelector('img')
          if (!line || !picture) return ['nothing there']
          const [room, said, shown] = [words, line, picture].map((e) => e.getBoundingClientRect())
          if (!room || !said || !shown) return ['no box']
          return said.bottom > room.bottom + 0.5 || shown.bottom > room.top + 0.5 ? [`${width}: ${said.bottom} ${room.bottom}, ${shown.bottom} ${room.top}`] : []
        }),
      )
      expect(cut).toEqual([])
      await other.close()
    }
})

test('photos enter as they come into view, and stand there at once where nothing is to move', async ({ browser }) => {
  const entered = async (reducedMotion: 'reduce' | 'no-preference') => {
    const context = await browser.newContext({ reducedMotion, viewport: { width: 1280, height: 420 } })
    await context.addInitScript(() => {
      const animate = Element.prototype.animate
      Object.assign(window, { entered: 0 })
      Element.prototype.animate = function (...said) {
        if (this.matches('.frame')) Object.assign(window, { entered: (window as unknown as { entered: number }).entered + 1 })
        return animate.apply(this, said)
      }
    })
    const visitor = await context.newPage()
    await visitor.goto('/by-touch')
    await expect(visitor.locator('a.frame').first()).toBeVisible()
    await visitor.mouse.move(600, 300)
    await visitor.mouse.wheel(0, 5000)
    await expect(visitor.locator('a.frame').last()).toBeInViewport()
    const many = () => visitor.evaluate(() => (window as unknown as { entered: number }).entered)
    if (reducedMotion === 'no-preference') await expect.poll(many).toBeGreaterThan(0)
    const all = await many()
    await context.close()
    return all
  }
  expect(await entered('no-preference')).toBeGreaterThan(0)
  expect(await entered('reduce')).toBe(0)
})

test('a press turns a photo round, the next opens it; a key turns it back; without scripts it opens', async ({ page: visitor, browser }) => {
  await made.choose('How words come over it', 'out of nothing.')
  await device('Desktop').first().click()
  await fold(/^Words with the photos/).click()
  await fold(/^Words with the photos/).click()
  await made.choose('When the first line stands there', 'on its back: a press turns it round.')
  await saved()
  await made.publish()
  await visitor.goto('/by-touch')
  const frames = visitor.locator('a.frame:has(.back)')
  await frames.first().click()
  await expect(frames.first()).toHaveClass(/turned/)
  await expect(frames.first().locator('.back')).toHaveCSS('opacity', '1')
  await expect(visitor.getByRole('dialog')).toHaveCount(0)
  await noSeriousFinding(visitor)
  // Only one is turned, and Escape turns it back.
  await frames.nth(1).click()
  await expect(visitor.locator('.turned')).toHaveCount(1)
  await visitor.keyboard.press('Escape')
  await expect(visitor.locator('.turned')).toHaveCount(0)
  await frames.nth(1).focus()
  await visitor.keyboard.press('Enter')
  await expect(frames.nth(1)).toHaveClass(/turned/)
  await visitor.keyboard.press('Enter')
  await expect(visitor.getByRole('dialog')).toBeVisible()

  const plain = await browser.newPage({ javaScriptEnabled: false })
  await plain.goto('/by-touch')
  await plain.locator('a.frame:has(.back)').first().click()
  await expect(plain).toHaveURL(/\/by-touch\/photo\//)
  await plain.close()
})
