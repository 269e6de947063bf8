import { expect, type Locator, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// Filter bars: arranged by their author, pressed by visitors at a desk and on a phone, with and without scripts and motion.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})
const buttons = (of: Locator, words: (string | RegExp)[]) => expect(of.locator('a[data-key]')).toHaveText(words)
const chosen = (of: Locator, words: string[]) => expect(of.locator('a[aria-current]')).toHaveText(words)

test('an author gives visitors buttons in groups, in an order and under words of their own', async () => {
  await made.begin('By buttons')
  await made.add('photos')
  await made.order.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /Regatta/ }).first().click()
  await made.order.getByRole('button', { name: 'Filter bar' }).click()
  await expect(made.order.getByText('Visitors cannot narrow these photos yet.')).toBeVisible()
  await made.order.getByRole('button', { name: '+ each joined album' }).click()
  await made.order.getByRole('button', { name: '+ tag' }).click()
  await page.getByRole('combobox', { name: 'Which tag?' }).fill('opening')
  await page.getByRole('option', { name: /^opening/i }).click()
  const bar = made.seen.locator('.filter.open')
  await buttons(bar, ['All 12', 'Regatta 12', /^opening day 6$/i])

  // Words of its own are typed where they stand; its place is changed by keys, which go with it.
  await made.order.getByRole('textbox', { name: /^What the button for opening day says/i }).fill('On the first day')
  await made.order.getByRole('button', { name: /^Move opening day/i }).focus()
  await page.keyboard.press('Alt+ArrowUp')
  await buttons(bar, ['All 12', 'On the first day 6', 'Regatta 12'])
  await expect(made.order.getByRole('button', { name: /^Move opening day/i })).toBeFocused()

  // A group of its own, to choose one of; a button is dragged into it from the other.
  await made.order.getByRole('button', { name: '+ another group' }).click()
  const second = made.order.getByRole('region', { name: 'Group 2' })
  await second.getByRole('button', { name: '+ category' }).click()
  await page.getByRole('option', { name: /Season/ }).click()
  await second.getByRole('combobox', { name: 'How many of this group visitors choose' }).selectOption({ label: 'Visitors choose one of' })
  await second.getByRole('textbox', { name: 'words before them' }).fill('When')
  await made.order.getByRole('button', { name: 'Move Each joined album' }).hover()
  await page.mouse.down()
  const target = await second.getByRole('button', { name: 'Move Season' }).boundingBox()
  await page.mouse.move((target?.x ?? 0) + 8, (target?.y ?? 0) + 8, { steps: 12 })
  await page.mouse.up()
  await buttons(bar, ['All 12', 'On the first day 6', 'Regatta 12', 'Season 12', 'Spring 12'])
  await expect(bar.getByRole('group', { name: 'When' }).getByRole('link')).toHaveCount(3)
  await made.order.getByRole('button', { name: /^opening day is chosen when the page is opened/i }).click()
  await chosen(bar, ['On the first day 6'])
  await made.choose('Where it is a drop-down', 'as a drop-down on phones.')
  await made.choose('Where the buttons stand', 'in the middle,')
  await made.order.getByRole('textbox', { name: 'What the button for all says' }).fill('All of the regatta')
  await expect(bar.getByRole('link', { name: /^All of the regatta/ })).toBeVisible()
  await noSeriousFinding(page)
  await made.publish()
})

test('a visitor is shown what is chosen at first, chooses one and several, and goes back', async ({ page: visitor }) => {
  await visitor.goto('/by-buttons')
  const bar = visitor.locator('.filter.open')
  const status = visitor.getByRole('status')
  await expect(status).toHaveText('6 of 12 photographs')
  await chosen(bar, ['On the first day 6'])
  await bar.getByRole('link', { name: /^All of the regatta/ }).click()
  await expect(status).toHaveText('12 photographs')
  await expect(visitor).toHaveURL(/\/by-buttons\?show=all$/)
  await chosen(bar, ['All of the regatta 12'])
  await bar.getByRole('link', { name: /^Season/ }).click()
  await bar.getByRole('link', { name: /^Spring/ }).click()
  await chosen(bar, ['Spring 12'])
  await bar.getByRole('link', { name: /^On the first day/ }).focus()
  await visitor.keyboard.press('Enter')
  await expect(visitor).toHaveURL(/\?show=on-the-first-day,spring$/)
  await expect(status).toHaveText('6 of 12 photographs')
  await expect(visitor.locator('a.frame')).toHaveCount(6)
  await visitor.goBack()
  await visitor.goBack()
  await visitor.goBack()
  await chosen(bar, ['All of the regatta 12'])
  await visitor.goBack()
  await expect(visitor).toHaveURL(/\/by-buttons$/)
  await chosen(bar, ['On the first day 6'])
  await expect(visitor.locator('a.frame')).toHaveCount(6)
  await noSeriousFinding(visitor)
})

test('on a phone it is a drop-down that says what is chosen, by touch, by keys and with scripts off', async ({ browser }) => {
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true })
  const visitor = await phone.newPage()
  await visitor.goto('/by-buttons')
  await expect(visitor.locator('.filter.open')).toBeHidden()
  const fold = visitor.locator('.filter.folded')
  const summary = fold.locator('summary')
  await expect(summary).toHaveText(/Show\s*On the first day/)
  await expect(fold.getByRole('link')).toHaveCount(0)
  await summary.tap()
  await fold.getByRole('link', { name: /^Spring/ }).tap()
  await expect(summary).toHaveText(/Show\s*On the first day, Spring/)
  await fold.getByRole('link', { name: /^All of the regatta/ }).tap()
  await expect(visitor.getByRole('status')).toHaveText('12 photographs')
  await expect(summary).toHaveText(/Show\s*All of the regatta/)
  await noSeriousFinding(visitor)
  await visitor.keyboard.press('Escape')
  await expect(summary).toBeFocused()
  await expect(fold.getByRole('link')).toHaveCount(0)
  expect(await visitor.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  const plain = await browser.newPage({ viewport: { width: 390, height: 844 }, javaScriptEnabled: false })
  await plain.goto('/by-buttons')
  await plain.locator('.filter.folded summary').click()
  await plain.locator('.filter.folded').getByRole('link', { name: /^All of the regatta/ }).click()
  await expect(plain).toHaveURL(/\?show=all$/)
  await expect(plain.getByRole('status')).toHaveText('12 photographs')
  await plain.close()
  await phone.close()
})

test('photos move to their new places, unless the visitor or the author wants them still', async ({ browser }) => {
  /** How many photos moved there, came up, or faded when a visitor chose all. */
  async function moved(reducedMotion: 'reduce' | 'no-preference') {
    const visitor = await browser.newPage({ reducedMotion, viewport: { width: 1280, height: 1600 } })
    await visitor.addInitScript(() => {
      const all: string[] = []
      Object.assign(window, { moves: all })
      const animate = Element.prototype.animate
      Element.prototype.animate = function (...said) {
        all.push(Object.keys((said[0] as Keyframe[])[0] ?? {}).join(' '))
        return animate.apply(this, said)
      }
    })
    await visitor.goto('/by-buttons?show=all')
    await expect(visitor.locator('a.frame')).toHaveCount(12)
    await visitor.locator('.filter.open').getByRole('link', { name: /^On the first day/ }).click()
    await expect(visitor.locator('a.frame[href]')).toHaveCount(6)
    // What left is gone once it has faded.
    await expect(visitor.locator('.leaving')).toHaveCount(0)
    const narrowed = await visitor.evaluate(() => (window as unknown as { moves: string[] }).moves.splice(0))
    await visitor.locator('.filter.open').getByRole('link', { name: /^All of the regatta/ }).click()
    await expect(visitor.locator('a.frame')).toHaveCount(12)
    const widened = await visitor.evaluate(() => (window as unknown as { moves: string[] }).moves)
    await visitor.close()
    return { narrowed, widened }
  }
  const { narrowed, widened } = await moved('no-preference')
  expect(narrowed.filter((m) => m === 'opacity')).toHaveLength(6)
  expect(narrowed.some((m) => m.includes('transform'))).toBe(true)
  expect(widened.filter((m) => m === 'opacity')).toHaveLength(6)
  expect(await moved('reduce')).toEqual({ narrowed: [], widened: [] })
  await made.choose('Whether photos move', 'Narrowed, photos stand in their new places at once.')
  await expect(page.getByRole('status').filter({ hasText: 'Saved.' })).toBeVisible()
  await made.publish()
  expect(await moved('no-preference')).toEqual({ narrowed: [], widened: [] })
})
