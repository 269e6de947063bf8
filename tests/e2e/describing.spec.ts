import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser } from './signIn'

// What is in hand stays a person's own, and its words are written all at once: on one plate, and by rules shown on examples.
let page: Page
oneBrowser((next) => {
  page = next
}, '/workroom/photos')

test.beforeEach(() => expect(page.locator('#frame-3 img')).toBeVisible())

const inHand = () => page.getByTestId('in-hand')
const foot = () => page.getByRole('status').filter({ hasText: 'Undo' })
const plates = async () => {
  const { photos } = await (await page.request.get('/api/hand')).json()
  return Promise.all((photos as string[]).map(async (id) => (await page.request.get(`/api/photos/${id}`)).json()))
}

/** Takes the first photos in hand and opens the plate for all of them. */
async function describe(count: number) {
  for (let i = 0; i < count; i++) await page.locator(`#frame-${i} [data-frame]`).or(page.locator(`#frame-${i}`)).first().click()
  await expect(inHand()).toHaveText(`${count} in hand`)
  await page.keyboard.press('w')
  await expect(page.getByRole('heading', { name: `${count} in hand, one plate` })).toBeVisible()
}

test('what is in hand is there again after a reload and in another tab, is turned round, and let go', async () => {
  await page.locator('#frame-0').click()
  await page.locator('#frame-2').click()
  await expect(inHand()).toHaveText('2 in hand')
  await page.reload()
  await expect(inHand()).toHaveText('2 in hand')
  const all = Number(await page.locator('#frame-0').getAttribute('aria-setsize'))
  const other = await page.context().newPage()
  await other.goto('/workroom/albums')
  await other.goto('/workroom/photos')
  await expect(other.getByTestId('in-hand')).toHaveText('2 in hand')
  await other.keyboard.press('r')
  await expect(other.getByTestId('in-hand')).toHaveText(`${all - 2} in hand`)
  await expect(other.locator('#frame-0')).toHaveAttribute('aria-selected', 'false')
  await expect(other.locator('#frame-1')).toHaveAttribute('aria-selected', 'true')
  await other.close()
  await page.evaluate(() => window.dispatchEvent(new Event('focus')))
  await expect(inHand()).toHaveText(`${all - 2} in hand`)
  await page.keyboard.press('e')
  await expect(inHand()).toHaveText(`${all} in hand`)
  await page.keyboard.press('Escape')
  await expect(inHand()).toBeHidden()
})

test('a pattern is typed, shown on examples while one types, written on all, and taken back', async () => {
  await describe(3)
  const before = (await plates()).map((p) => p.title)
  await page.getByLabel('Text of the pattern, place 1').fill('Kite ')
  await page.getByRole('button', { name: 'Put in…' }).click()
  await page.getByRole('button', { name: 'a number' }).click()
  await expect(page.getByLabel('Text of the pattern, place 2')).toBeFocused()
  await page.keyboard.type(' of ')
  await page.getByRole('button', { name: 'Put in…' }).click()
  await page.getByRole('button', { name: 'the file name' }).click()
  const names = (await plates()).map((p) => p.fileName.replace(/\.[^.]*$/, ''))
  const wanted = names.map((name, i) => `Kite 0${i + 1} of ${name}`)
  const examples = page.getByTestId('example')
  await expect(examples).toHaveCount(3)
  for (const [i, title] of wanted.entries()) await expect(examples.nth(i)).toContainText(title)
  // The number is pressed to say how it is written.
  await page.getByRole('button', { name: 'number from 01' }).click()
  await page.getByLabel('The first is').fill('9')
  await page.getByLabel('Digits').fill('3')
  await page.keyboard.press('Escape')
  await expect(examples.first()).toContainText(`Kite 009 of ${names[0]}`)
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Write it on 3 photos' }).click()
  await expect(foot()).toContainText('Changed 3 photos.')
  await expect.poll(async () => (await plates()).map((p) => p.title)).toEqual(names.map((name, i) => `Kite ${['009', '010', '011'][i]} of ${name}`))
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => (await plates()).map((p) => p.title)).toEqual(before)
  // Backspace takes a part out again, with the keyboard alone.
  await page.getByLabel('Text of the pattern, place 3').focus()
  await page.keyboard.press('Backspace')
  await expect(page.getByRole('button', { name: 'the file name', exact: true })).toBeHidden()
})

test('one plate for several says what differs, writes on all, and adds to all without touching the rest', async () => {
  await describe(2)
  await page.getByLabel('Place', { exact: true }).fill('Marram Bay')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await plates()).map((p) => p.place)).toEqual(['Marram Bay', 'Marram Bay'])
  await expect(page.getByLabel('Place', { exact: true })).toHaveValue('Marram Bay')
  await page.getByRole('button', { name: '+ person' }).click()
  await page.getByRole('combobox', { name: 'Who is shown' }).fill('Ines Harrow')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await plates()).map((p) => p.people)).toEqual([['Ines Harrow'], ['Ines Harrow']])
  await page.keyboard.press('Escape')
  // One of them is written for itself: then the plate for both says that it differs, and offers the commonest.
  const [first] = await plates()
  await page.goto(`/workroom/photos?photo=${first.id}`)
  await page.getByLabel('Place', { exact: true }).fill('The harbour')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await plates()).map((p) => p.place)).toEqual(['The harbour', 'Marram Bay'])
  await page.goto('/workroom/describe')
  await expect(page.getByLabel('Place', { exact: true })).toHaveAttribute('placeholder', 'differs, 2 ways')
  await page.getByRole('button', { name: 'Say it of all: Place' }).click()
  await expect.poll(async () => new Set((await plates()).map((p) => p.place)).size).toBe(1)
  await page.getByRole('button', { name: 'Take “Ines Harrow” off 2 photos' }).click()
  await expect.poll(async () => (await plates()).map((p) => p.people.length)).toEqual([0, 0])
})

test('a text is replaced, letters are written anew, and a wrong clock is set right', async () => {
  await describe(2)
  await page.getByLabel('Text of the pattern, place 1').fill('OVER THE PIER')
  await page.getByRole('button', { name: 'Write it on 2 photos' }).click()
  await expect(foot()).toContainText('Changed 2 photos.')
  await page.getByRole('tab', { name: 'Large and small letters' }).click()
  await expect(page.getByTestId('example').first()).toContainText('Over the pier')
  await page.getByRole('button', { name: 'Write it on 2 photos' }).click()
  await page.getByRole('tab', { name: 'Find and replace' }).click()
  await page.getByLabel('what is found').fill('PIER')
  await page.getByLabel('by', { exact: true }).fill('mole')
  await page.getByRole('button', { name: 'Write it on 2 photos' }).click()
  await expect.poll(async () => (await plates()).map((p) => p.title)).toEqual(['Over the mole', 'Over the mole'])
  await page.getByRole('button', { name: /^Taken|say when|202/ }).first().click()
  await page.getByRole('textbox', { name: 'When it was taken' }).fill('2026-06-13T12:00:00')
  await page.getByRole('button', { name: 'Say so' }).click()
  await expect.poll(async () => (await plates()).map((p) => p.taken)).toEqual(['2026-06-13T12:00:00', '2026-06-13T12:00:00'])
  await page.getByRole('tab', { name: 'Set the clock right' }).click()
  await page.getByLabel('The first in hand was really taken at').fill('2026-06-14T10:30:00')
  await expect(page.getByTestId('example').first()).toContainText('14 June 2026, 10:30')
  await page.getByRole('button', { name: 'Set it on 2 photos' }).click()
  await expect.poll(async () => (await plates()).map((p) => p.taken)).toEqual(['2026-06-14T10:30:00', '2026-06-14T10:30:00'])
})

test('letters that act can be switched off, and say so', async () => {
  await page.keyboard.press('?')
  await page.getByLabel('Letters, digits and signs act when pressed alone').uncheck()
  await page.getByRole('button', { name: 'Close' }).click()
  await page.keyboard.press('e')
  await page.locator('#frame-0').click()
  await expect(inHand()).toHaveText('1 in hand')
  await expect(page.locator('.bare-key').first()).toBeHidden()
  await page.keyboard.press('w')
  await expect(page.getByRole('heading', { name: 'Photos' })).toBeVisible()
  await page.getByRole('button', { name: 'Keys' }).click()
  await page.getByLabel('Letters, digits and signs act when pressed alone').check()
  await page.getByRole('button', { name: 'Close' }).click()
  await page.keyboard.press('w')
  await expect(page.getByRole('heading', { name: 'One photo in hand' })).toBeVisible()
})
