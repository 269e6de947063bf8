import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser } from './signIn'

// Tags kept in order: renamed where they stand, made one, thrown away; each is taken back.
let page: Page
oneBrowser((next) => {
  page = next
}, '/workroom/photos')

const json = async (address: string) => (await page.request.get(address)).json()
const tags = async (): Promise<{ id: string; name: string; photos: number }[]> => (await json('/api/tags/all')).tags
const foot = () => page.getByRole('status').first()

/** Tags the first photos of the sheet by the door that the workroom uses. */
const tag = (name: string, from: number, to: number) =>
  page.evaluate(
    async ({ name, from, to }) => {
      const session = (await (await fetch('/api/session')).json()) as { forgery: string }
      const sheet = (await (await fetch('/api/photos?sort=name')).json()) as { photos: { id: string }[] }
      await fetch('/api/photos/tags', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'X-Jovitar-Forgery': session.forgery },
        body: JSON.stringify({ photos: sheet.photos.slice(from, to).map((p) => p.id), add: [name], remove: [] }),
      })
    },
    { name, from, to },
  )

test('tags that are likely one are made one by a press, and undo parts them', async () => {
  await expect(page.locator('#frame-3 img')).toBeVisible()
  await tag('Sandcastle', 0, 5)
  await tag('sand castles', 3, 9)
  await page.getByRole('link', { name: 'Tags', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Tags', exact: true })).toBeVisible()
  const twins = page.getByRole('listitem').filter({ hasText: 'All of them become' }).filter({ hasText: 'Sandcastle' })
  await expect(twins.getByRole('button')).toHaveCount(2)
  await noSeriousFinding(page)
  await twins.getByRole('button', { name: /^Sandcastle/ }).click()
  await expect(foot()).toContainText('“sand castles” is “Sandcastle” now, on 6 photos.')
  expect((await tags()).filter((t) => /castle/i.test(t.name))).toEqual([expect.objectContaining({ name: 'Sandcastle', photos: 9 })])
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(twins.getByRole('button')).toHaveCount(2)
  await expect.poll(async () => (await tags()).filter((t) => /castle/i.test(t.name)).map((t) => t.photos)).toEqual([6, 5])
})

test('a tag is renamed where it stands, becomes another, and leads to its photos', async () => {
  await page.goto('/workroom/tags')
  const name = (of: string) => page.getByRole('textbox', { name: `Name of the tag: ${of}`, exact: true })
  await name('sand castles').fill('Towers of sand')
  await page.keyboard.press('Enter')
  await expect(foot()).toContainText('It is called “Towers of sand” now')
  // A name that is taken stays another's.
  await name('Towers of sand').fill('SANDCASTLE')
  await page.keyboard.press('Enter')
  await expect(foot()).toContainText('There is a tag “SANDCASTLE” already.')
  await page.reload()
  const row = page.getByRole('listitem').filter({ has: name('Towers of sand') })
  await row.getByRole('button', { name: /^Make one with/ }).click()
  await page.getByRole('combobox', { name: 'What “Towers of sand” becomes' }).fill('sandc')
  await page.getByRole('option', { name: /^Sandcastle/ }).click()
  await expect(foot()).toContainText('“Towers of sand” is “Sandcastle” now')
  await page.getByRole('listitem').filter({ has: name('Sandcastle') }).getByRole('link', { name: '9 photos' }).click()
  await expect(page.locator('#frame-0')).toHaveAttribute('aria-setsize', '9')
})

test('tags on no photo are found and thrown away together', async () => {
  await tag('Never used', 0, 1)
  const never = (await tags()).find((t) => t.name === 'Never used')
  await page.evaluate(async (id) => {
    const session = (await (await fetch('/api/session')).json()) as { forgery: string }
    const sheet = (await (await fetch('/api/photos?sort=name')).json()) as { photos: { id: string }[] }
    await fetch('/api/photos/tags', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'X-Jovitar-Forgery': session.forgery },
      body: JSON.stringify({ photos: [sheet.photos[0]?.id], add: [], remove: [id] }),
    })
  }, never?.id)
  await page.goto('/workroom/tags')
  await page.getByRole('button', { name: /^On no photo/ }).click()
  await expect(page.getByRole('textbox', { name: 'Name of the tag: Never used' })).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('button', { name: /^Throw \d+ unused tags? in the bin$/ }).click()
  await expect(foot()).toContainText(/^Threw \d+ unused tags? in the bin/)
  expect((await tags()).map((t) => t.name)).not.toContain('Never used')
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => (await tags()).map((t) => t.name)).toContain('Never used')
})
