import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// Visitors say something about photos; staff read it before others do.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})

test('an album lets visitors comment on its photos and rate them', async ({ page: visitor }) => {
  await made.beginOf('To talk of', /Regatta/)
  await made.publish()
  await visitor.goto('/to-talk-of')
  await visitor.locator('a.frame').first().click()
  await expect(visitor.getByRole('dialog').getByRole('link', { name: 'Comments' })).toHaveCount(0)

  await page.getByRole('link', { name: /^Albums/ }).click()
  await page.getByRole('navigation', { name: 'Contents' }).getByRole('link', { name: /^Regatta/ }).first().click()
  // Where they are rated alone, the viewer leads there, too.
  await page.getByRole('combobox', { name: 'What visitors may say about its photos' }).selectOption('ratings')
  await expect(page.getByRole('combobox', { name: 'What visitors may say about its photos' })).toHaveValue('ratings')
  await visitor.goto('/to-talk-of')
  await visitor.locator('a.frame').first().click()
  await visitor.getByRole('dialog').getByRole('link', { name: 'Rate it' }).click()
  await expect(visitor.getByRole('group', { name: 'What do you think of it?' })).toBeInViewport()
  await expect(visitor.getByRole('textbox')).toHaveCount(0)
  await page.getByRole('combobox', { name: 'What visitors may say about its photos' }).selectOption('both')
  await expect(page.getByRole('combobox', { name: 'What visitors may say about its photos' })).toHaveValue('both')
  await page.getByRole('link', { name: /^Visitors/ }).click()
  await expect(page.getByText('No comment waits for you.')).toBeVisible()
  await noSeriousFinding(page)
})

test('a visitor rates a photo and comments on it, with scripts and without', async ({ page: visitor, browser }) => {
  await visitor.goto('/to-talk-of')
  await visitor.locator('a.frame').first().click()
  await visitor.getByRole('dialog').getByRole('link', { name: 'Comments' }).click()
  await expect(visitor.getByRole('heading', { name: 'Comments' })).toBeInViewport()
  await visitor.getByRole('button', { name: '4 of 5' }).click()
  await expect(visitor.getByText('4.0 of 5, from 1 visitor')).toBeVisible()
  await noSeriousFinding(visitor)
  await visitor.reload()
  await expect(visitor.getByRole('button', { name: '4 of 5' })).toHaveAttribute('aria-pressed', 'true')
  await visitor.getByRole('button', { name: '4 of 5' }).click()
  await expect(visitor.getByText(/from 1 visitor/)).toHaveCount(0)

  await visitor.getByRole('button', { name: 'Send it' }).click()
  await expect(visitor.getByText('Write something first.')).toBeVisible()
  await expect(visitor.getByText('Say who you are.')).toBeVisible()
  await noSeriousFinding(visitor)
  // What one types is typed, whatever its keys do elsewhere on the page.
  const words = visitor.getByLabel('What do you say about it?')
  await words.pressSequentially('mm')
  for (const key of ['ArrowLeft', 'ArrowRight', 'Escape']) await words.press(key)
  await expect(words).toHaveValue('mm')
  await expect(visitor.getByRole('link', { name: /marked$/ })).toHaveCount(0)
  await words.fill('So close to the buoy!\n<i>Who</i> was at the helm?')
  await visitor.getByLabel('Your name, as others read it').fill('Ines')
  await visitor.getByRole('button', { name: 'Send it' }).click()
  await expect(visitor.getByText(/^Thank you\. Others read your comment once/)).toBeVisible()
  await expect(visitor.locator('.said')).toHaveCount(0)

  const plain = await browser.newPage({ javaScriptEnabled: false })
  await plain.goto('/to-talk-of')
  await plain.locator('a.frame').first().click()
  await plain.getByLabel('What do you say about it?').fill('Buy sails here')
  await plain.getByLabel('Your name, as others read it').fill('Sails')
  await plain.getByRole('button', { name: 'Send it' }).click()
  await expect(plain.getByText(/^Thank you\./)).toBeVisible()
  await plain.close()
})

test('staff show what is good and refuse what is not, by keys, and take it back', async ({ page: visitor }) => {
  await page.goto('/workroom/comments')
  const show = page.getByRole('button', { name: 'Show it', exact: true })
  await expect(show).toHaveCount(2)
  await expect(page.getByText('So close to the buoy!')).toBeVisible()
  await noSeriousFinding(page)
  await show.first().focus()
  await page.keyboard.press('Enter')
  await expect(show).toHaveCount(1)
  // The keyboard stands at the one that follows.
  await expect(show).toBeFocused()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(page.getByText('No comment waits for you.')).toBeVisible()
  await page.getByRole('button', { name: 'Shown 1' }).click()
  await expect(page.getByText('So close to the buoy!')).toBeVisible()
  await page.getByRole('button', { name: 'Refused 1' }).click()
  await expect(page.getByText('Buy sails here')).toBeVisible()

  await visitor.goto('/to-talk-of')
  await visitor.locator('a.frame').first().click()
  await visitor.getByRole('dialog').getByRole('link', { name: 'Comments' }).click()
  await expect(visitor.getByRole('heading', { name: 'One comment' })).toBeVisible()
  await expect(visitor.locator('.said')).toHaveText('So close to the buoy!\n<i>Who</i> was at the helm?')
  await visitor.setViewportSize({ width: 390, height: 800 })
  expect(await visitor.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await noSeriousFinding(visitor)

  await page.getByRole('button', { name: 'Shown 1' }).click()
  await page.getByRole('button', { name: 'Hide it again' }).click()
  await expect(page.getByRole('button', { name: 'Refused 2' })).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Shown 1' })).toBeVisible()
  await page.getByRole('button', { name: 'Refused 1' }).click()
  await page.getByRole('button', { name: 'Remove for good' }).click()
  const asked = page.getByRole('dialog', { name: 'Remove 1 refused comment for good?' })
  await noSeriousFinding(page)
  await asked.getByRole('button', { name: 'Remove for good' }).click()
  await expect(page.getByText('No comment is refused.')).toBeVisible()
})
