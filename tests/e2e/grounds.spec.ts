import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'
import { weighsAsSaid } from './weighing'

// What lies behind blocks, and settings of blocks kept under a name.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})
const fold = (name: string) => made.order.getByRole('button', { name: new RegExp(`^${name}`) })

test('a colour and a photo lie behind blocks, one after another on the same, and words turn light or dark', async ({ browser }) => {
  test.slow()
  await made.begin('On grounds')
  await made.add('text')
  await page.keyboard.type('Words over a photo, to be read by everybody.')
  await expect(made.seen.locator('.words')).toHaveText('Words over a photo, to be read by everybody.')
  await fold('Ground').focus()
  await page.keyboard.press('Enter')
  await made.choose('What lies behind it', 'a colour')
  await made.order.getByRole('button', { name: 'Ink', exact: true }).click()
  await expect(made.seen.locator('.ground .words')).toHaveCSS('color', 'rgb(250, 250, 250)')
  await made.order.getByRole('textbox', { name: 'Colour of the ground, typed' }).fill('#E8DFCE')
  await expect(made.seen.locator('.ground .words')).toHaveCSS('color', 'rgb(22, 22, 22)')
  await expect(made.seen.locator('.ground')).toHaveCSS('background-color', 'rgb(232, 223, 206)')

  await made.choose('What lies behind it', 'a photo')
  await made.order.getByRole('button', { name: 'Choose a photo…' }).click()
  await page.getByRole('dialog', { name: 'Which photos?' }).locator('li button').nth(1).click()
  await expect(made.seen.locator('.ground img.backdrop')).toBeVisible()
  await made.choose('Height of the ground', 'half the window high, or more')
  await made.add('button')
  await made.order.getByRole('textbox', { name: 'Words of the button' }).fill('Come rowing')
  await made.order.getByRole('textbox', { name: 'Address' }).fill('mailto:club@example.test')
  await page.keyboard.press('Tab')
  await fold('Ground').click()
  await made.choose('What lies behind it', 'what lies behind the block above')
  await expect(made.seen.locator('.ground').getByRole('link', { name: 'Come rowing' })).toBeVisible()
  await noSeriousFinding(page)

  // While one works it can be hidden.
  await page.getByRole('button', { name: 'Hide grounds' }).click()
  await expect(made.seen.locator('.ground img.backdrop')).toBeHidden()
  await page.getByRole('button', { name: 'Show grounds' }).click()
  await expect(made.seen.locator('.ground img.backdrop')).toBeVisible()
  await made.publish()

  const context = await browser.newContext()
  const visitor = await context.newPage()
  for (const [width, height] of [[1280, 800], [390, 844]] as const) {
    await visitor.setViewportSize({ width, height })
    await visitor.goto('/on-grounds')
    const ground = visitor.locator('.ground')
    await expect(ground).toHaveCount(1)
    expect((await ground.boundingBox())?.height).toBeGreaterThanOrEqual(height / 2 - 1)
    await expect(ground.locator('.words')).toHaveText('Words over a photo, to be read by everybody.')
    expect(await ground.locator('img.backdrop').evaluate((i: HTMLImageElement) => i.complete && i.naturalWidth > 0)).toBe(true)
    expect(await visitor.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)).toBeLessThanOrEqual(0)
    await noSeriousFinding(visitor)
  }
  await context.close()
  await weighsAsSaid(browser, page, 'on-grounds')
})

test('words that cannot be read are noticed beside their block, and both ways out are taken with a press', async () => {
  await made.line('Text').click()
  await fold('Ground').click()
  await made.choose('What lies behind it', 'a colour')
  await made.choose('Colour of the words', 'in a colour of their own')
  await made.order.getByRole('textbox', { name: 'The words, typed' }).fill('#d8cfbe')
  const notes = made.order.getByRole('list', { name: 'Notes in the margin' })
  await expect(notes).toContainText('4.5 : 1 is asked for')
  await notes.getByRole('button', { name: /^Write in #/ }).click()
  await expect(notes.getByText('4.5 : 1 is asked for')).toHaveCount(0)
  await made.choose('What lies behind it', 'a photo')
  await made.order.getByRole('textbox', { name: 'The words, typed' }).fill('#bbbbbb')
  await made.order.getByRole('textbox', { name: 'Veil over the photo' }).fill('0')
  await page.keyboard.press('Tab')
  await notes.getByRole('button', { name: /^Veil it by/ }).click()
  await expect(notes.getByText('4.5 : 1 is asked for')).toHaveCount(0)
  await expect(made.order.getByRole('textbox', { name: 'Veil over the photo' })).not.toHaveValue('0')
})

test('how a block is set is kept under a name and put on another page, and let go', async () => {
  await made.choose('Colour of the words', 'dark or light, whichever reads better')
  await expect(page.getByRole('status').filter({ hasText: 'Saved.' })).toBeVisible()
  await made.order.getByRole('button', { name: 'Kept settings…' }).click()
  const kept = page.getByRole('dialog', { name: 'Kept settings' })
  await kept.getByRole('textbox', { name: 'Keep how this one is set as' }).fill('Over the pier')
  await page.keyboard.press('Enter')
  await expect(kept.getByRole('button', { name: 'Set it like “Over the pier”' })).toBeVisible()
  await noSeriousFinding(page)
  await page.keyboard.press('Escape')

  await made.begin('Another one')
  await made.add('text')
  await page.keyboard.type('Other words.')
  await made.order.getByRole('button', { name: 'Kept settings…' }).click()
  await kept.getByRole('button', { name: 'Set it like “Over the pier”' }).click()
  await expect(made.seen.locator('.ground img.backdrop')).toBeVisible()
  await expect(made.seen.locator('.ground .words')).toHaveText('Other words.')
  await made.order.getByRole('button', { name: 'Kept settings…' }).click()
  await kept.getByRole('button', { name: 'Let “Over the pier” go' }).click()
  await expect(kept.getByText('How this block looks')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(made.seen.locator('.ground')).toHaveCount(1)
})
