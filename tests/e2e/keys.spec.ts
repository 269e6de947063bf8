import { expect, type Page, test } from '@playwright/test'
import { making, oneMaker } from './making'

// A page of every block, made and published without a pointer: what is wanted is gone to with Tab, as somebody does who has only keys.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
oneMaker((next) => {
  page = next
  made = making(page)
})

/** What has the keyboard is called. */
const called = () =>
  page.evaluate(() => {
    const at = document.activeElement as HTMLInputElement | null
    return (at?.getAttribute('aria-label') ?? at?.labels?.[0]?.textContent ?? at?.getAttribute('placeholder') ?? at?.textContent ?? '').trim()
  })

/** Goes on with Tab until what is called so has the keyboard; once round is enough to come upon everything. */
async function goTo(name: string | RegExp) {
  const is = (now: string) => (typeof name === 'string' ? now === name : name.test(now))
  for (let presses = 0; presses < 400; presses++) {
    await page.keyboard.press('Tab')
    if (is(await called())) return
  }
  throw new Error(`Nothing called ${name} is come upon with Tab.`)
}
async function press(name: string | RegExp) {
  await goTo(name)
  await page.keyboard.press('Enter')
}
async function fill(name: string | RegExp, words: string) {
  await goTo(name)
  await page.keyboard.type(words)
}
/** Takes the first of a chooser's list that has these letters in it. */
async function choose(letters: string) {
  await expect(page.getByRole('combobox').and(page.locator(':focus'))).toBeVisible()
  await page.keyboard.type(letters)
  await expect(page.locator('[role=option]').first()).toContainText(letters, { ignoreCase: true })
  await page.keyboard.press('Enter')
}

test('a page of every block is made and published by keys alone', async ({ browser }) => {
  test.setTimeout(150_000)
  await press(/^Pages/)
  await fill('New page', 'By keys alone')
  await page.keyboard.press('Enter')
  await expect(made.seen.getByRole('heading', { name: 'By keys alone' })).toBeVisible()

  await press('text')
  await page.keyboard.type('Typed before the place for it was there.')
  await expect(made.seen.locator('.words')).toHaveText('Typed before the place for it was there.')
  await page.keyboard.press('Escape')
  await press('photos')
  await press('+ album')
  await choose('regatta')
  await expect(made.seen.locator('.frames .frame').first()).toBeVisible()
  await press('one photo')
  await press('Choose a photo…')
  const picker = page.getByRole('dialog', { name: 'Which photos?' })
  const first = picker.locator('li button').first()
  await expect(first).toBeVisible()
  for (let presses = 0; presses < 20 && !(await first.evaluate((b) => b === document.activeElement)); presses++) await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(made.seen.locator('figure.photo img')).toBeVisible()
  await press('video')
  await press('Choose a video…')
  await choose('night')
  await press('sound')
  await press('Choose a sound…')
  await choose('twelve')
  await press('files to save')
  await press('Choose a file…')
  await choose('rules')
  await press('index of albums')
  await press('contact')
  await fill('Name', 'The boathouse')
  await fill('Telephone', '+44 1632 960417')
  await press('button')
  await fill('Words of the button', 'Come rowing')
  await fill('Address', 'mailto:club@example.test')
  await press('divider')
  await press('side by side')
  await expect(made.seen.locator('.beside.n2')).toBeVisible()
  await expect(page.getByText('Saved.', { exact: false }).first()).toBeVisible()
  await press(/^Publish(?!ed)/)
  await expect(page.getByRole('button', { name: 'Published', exact: true })).toBeVisible()

  const context = await browser.newContext()
  const visitor = await context.newPage()
  await visitor.goto('/by-keys-alone')
  for (const kind of ['.heading', '.words', '.photos .frame', 'figure.photo img', 'figure.video video', 'figure.sound audio', '.offers a', '.covers a, .feed, .index', '.contact', '.press .button', '.divider'])
    await expect(visitor.locator(kind).first()).toBeAttached()
  await context.close()
})
