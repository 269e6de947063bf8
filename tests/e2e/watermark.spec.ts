import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneMaker } from './making'

// A watermark is tried on one's own photos, put on an album for some, changed, and taken off again.
test.describe.configure({ mode: 'serial' })

let page: Page
oneMaker((next) => {
  page = next
})

const status = (words: string) => expect(page.getByRole('status').filter({ hasText: words })).toBeVisible()
const open = () => page.goto('/workroom/watermark')
const examples = () => page.getByRole('region', { name: 'How it looks on your photos' }).getByRole('img')

/** The pictures that a visitor gets on a page, once the first stands there. */
async function picturesOf(visitor: Page, path: string) {
  await visitor.goto(path)
  const photos = visitor.locator('a[href*="/photo/"] img')
  await expect
    .poll(() => photos.first().evaluate((img: HTMLImageElement) => img.complete && img.naturalWidth))
    .toBeGreaterThan(0)
  return photos.evaluateAll((all) => all.map((img) => (img as HTMLImageElement).src.split('/i/')[1]?.split('/')[0] ?? ''))
}

test('it is seen on one’s own photos before anybody has it', async () => {
  await open()
  await status('There is no watermark yet: say what it is made of.')
  await expect(page.getByRole('button', { name: 'Use this watermark' })).toHaveCount(0)
  await page.getByRole('textbox', { name: 'Its words' }).fill('© Rowing club')
  await page.getByRole('combobox', { name: 'How its words are set' }).selectOption('as if by hand')
  const first = examples().first()
  await expect(first).toHaveAttribute('src', /words=%C2%A9\+Rowing\+club&lettering=hand/)
  await expect.poll(() => first.evaluate((img: HTMLImageElement) => img.complete && img.naturalWidth)).toBeGreaterThan(200)
  // By keys, too: from corner to corner, and all over.
  await page.getByRole('radio', { name: 'at the bottom on the right' }).focus()
  await page.keyboard.press('ArrowRight', { delay: 60 })
  await expect(page.getByRole('radio', { name: 'all over the photo' })).toBeChecked()
  await expect(first).toHaveAttribute('src', /place=allOver/)
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Use this watermark' }).click()
  await status('Nobody gets it yet: say below who is to.')
})

test('an album has it for those whom it does not spare', async ({ browser }) => {
  await page.goto('/workroom/albums')
  await page.getByRole('main').getByRole('link', { name: /Regatta/ }).first().click()
  const line = page.getByRole('region', { name: 'Watermark' })
  await line.getByRole('combobox', { name: 'Who gets Regatta without watermark' }).selectOption('nobody but staff')
  await expect(page.getByText('Visitors have it so from now on.')).toBeVisible()
  const visitor = await (await browser.newContext()).newPage()
  const pictures = await picturesOf(visitor, '/regatta')
  expect(pictures.length).toBeGreaterThan(0)
  for (const picture of pictures) expect(picture).toMatch(/-w[0-9a-f]{16}$/)
  // Staff work with what came in.
  await expect(page.locator('img[src*="/api/renditions/"]').first()).toBeVisible()
  await expect(page.locator('img[src*="-w"]')).toHaveCount(0)

  await open()
  await status('This is what visitors have.')
  await page.getByRole('radio', { name: 'at the top on the left' }).click()
  await status('Visitors still have it as it was.')
  await page.getByRole('button', { name: 'Leave it as it was' }).click()
  await expect(page.getByRole('radio', { name: 'all over the photo' })).toBeChecked()
  await page.getByRole('radio', { name: 'in the middle', exact: true }).click()
  await page.getByRole('button', { name: 'Put it on the photos' }).click()
  await status('This is what visitors have.')
  expect(await picturesOf(visitor, '/regatta')).not.toEqual(pictures)
  await visitor.context().close()
})

test('it is a picture, and comes off again', async ({ browser }) => {
  await page.getByRole('button', { name: 'a picture' }).click()
  await expect(page.getByRole('button', { name: 'Put it on the photos' })).toHaveCount(0)
  const picture = page.getByLabel('Bring a picture')
  await picture.setInputFiles({ name: 'words.png', mimeType: 'image/png', buffer: Buffer.from('no picture at all') })
  await expect(page.getByRole('alert').filter({ hasText: 'That is no picture that can be a watermark.' })).toBeVisible()
  await picture.setInputFiles({
    name: 'pennant.svg',
    mimeType: 'image/svg+xml',
    buffer: Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="30" height="20"><path d="M0 0L30 10L0 20z" fill="#b3261e"/></svg>'),
  })
  await expect(examples().first()).toHaveAttribute('src', /kind=picture.*picture=[0-9a-f]{64}/)
  await page.getByRole('button', { name: 'Put it on the photos' }).click()
  await status('This is what visitors have.')
  await noSeriousFinding(page)

  await page.getByRole('button', { name: 'words', exact: true }).click()
  await page.getByRole('textbox', { name: 'Its words' }).fill('')
  await page.getByRole('button', { name: 'Take it off all photos' }).click()
  await status('There is no watermark yet: say what it is made of.')
  const visitor = await (await browser.newContext()).newPage()
  for (const name of await picturesOf(visitor, '/regatta')) expect(name).not.toContain('-w')
  await visitor.context().close()
  // What the album says stays until somebody says otherwise.
  await page.getByRole('combobox', { name: 'Who gets Regatta without watermark' }).selectOption('everyone')
  await expect(page.getByRole('region', { name: 'Who gets photos without it' })).toHaveCount(0)
})
