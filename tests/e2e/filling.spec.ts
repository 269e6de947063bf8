import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser } from './signIn'

// An album fills itself with what a sheet was narrowed to, goes along with what is found, and is led back to one's own hand.
let page: Page
oneBrowser((next) => {
  page = next
}, '/workroom/photos')

const json = async (address: string) => (await page.request.get(address)).json()
const holds = () => page.locator('#frame-0').getAttribute('aria-setsize')
const itself = () => page.getByRole('region', { name: 'How this album keeps itself' })

test('what the sheet is narrowed to fills an album, by key alone; more comes of itself, and undo lets it go', async () => {
  await expect(page.locator('#frame-3 img')).toBeVisible()
  await page.goto('/workroom/photos?shape=landscape&sort=name')
  await expect(page.getByText(/photos landscape\./)).toBeVisible()
  const landscape = (await json('/api/photos?shape=landscape&sort=name')).photos
  const portrait = (await json('/api/photos?shape=portrait')).photos[0]
  await page.getByRole('button', { name: 'fill an album with them…' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('dialog')).toContainText('by file name, A to Z')
  await page.keyboard.type('Wide ones')
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(/\/workroom\/albums\//)
  await expect(itself()).toContainText('Fills itself with photos landscape, by')
  await expect.poll(holds).toBe(String(landscape.length))
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(landscape[0].title || landscape[0].fileName)
  await noSeriousFinding(page)

  // One is held out, seen, and let in again.
  await page.locator('#frame-0').click()
  await page.keyboard.press('o')
  await expect.poll(holds).toBe(String(landscape.length - 1))
  await page.keyboard.press('Escape')
  await itself().getByRole('button', { name: '1 held out' }).click()
  await page.getByRole('button', { name: /^Let it in again/ }).click()
  await expect.poll(holds).toBe(String(landscape.length))
  await expect(itself().getByRole('button', { name: /held out/ })).toHaveCount(0)

  // At most so many, the last first.
  await itself().getByRole('spinbutton', { name: 'Largest number' }).fill('3')
  await page.keyboard.press('Enter')
  await expect.poll(holds).toBe('3')
  await itself().getByRole('combobox', { name: 'Order of this album' }).selectOption({ label: 'file name, Z to A' })
  const last = landscape.at(-1)
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(last.title || last.fileName)

  // Its rule is pressed: the sheet shows what is found, and is narrowed otherwise.
  await itself().getByRole('link', { name: 'photos landscape' }).click()
  await expect(page.getByText('What is found here will fill “Wide ones”')).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('group', { name: 'What the sheet shows' }).getByRole('button', { name: 'landscape' }).click()
  const choices = page.getByRole('group', { name: 'What the sheet shows' }).getByRole('region')
  await choices.getByRole('button', { name: /^portrait/ }).click()
  await choices.getByRole('button', { name: /^landscape/ }).click()
  await expect(page.getByText(/photos? portrait\./)).toBeVisible()
  await page.getByRole('spinbutton', { name: 'Largest number' }).fill('200')
  await page.getByRole('button', { name: 'Fill it so' }).click()
  await expect(itself()).toContainText('Fills itself with photos portrait')
  await expect.poll(async () => (await json(`/api/photos?album=${page.url().split('/').at(-1)}&sort=place`)).photos.some((p: { id: string }) => p.id === portrait.id)).toBe(true)
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(itself()).toContainText('Fills itself with photos landscape')
  await expect.poll(holds).toBe('3')

  // By hand from here: it keeps what it holds, and photos can be moved.
  await itself().getByRole('button', { name: 'Make it hand-picked' }).click()
  await expect(itself()).toContainText('Picked by hand, in an order')
  await expect.poll(holds).toBe('3')
  const first = await page.locator('#frame-0 [data-open]').innerText()
  await itself().getByRole('button', { name: 'Turn round' }).click()
  await expect(page.locator('#frame-2 [data-open]')).toHaveText(first)
  await page.locator('#frame-2').click()
  await page.keyboard.press('m')
  await page.keyboard.type('1')
  await page.keyboard.press('Enter')
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(first)
  await page.keyboard.press('Escape')
})

test('an album that is picked by hand is kept in an order, and says why nothing is moved', async () => {
  await page.goto('/workroom/albums')
  await page.getByRole('link', { name: /^Regatta/ }).first().click()
  await expect(itself()).toContainText('Picked by hand, in an order')
  const order = itself().getByRole('combobox', { name: 'Order of this album' })
  const before = await page.locator('#frame-0 [data-open]').innerText()
  await order.selectOption({ label: 'file name, Z to A' })
  await expect(itself()).toContainText('Picked by hand, kept by')
  await expect(page.getByText('This album keeps its order by itself.')).toBeVisible()
  const album = page.url().split('/').at(-1)
  const names = (await json(`/api/photos?album=${album}&sort=name&reversed=true`)).photos
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(names[0].title || names[0].fileName)
  await page.locator('#frame-0').click()
  await expect(page.getByRole('button', { name: /Move to position/ })).toHaveCount(0)
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(itself()).toContainText('Picked by hand, in an order')
  await expect.poll(() => order.inputValue()).toBe('place')
  // It stands again as it was made by hand.
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(before)
})

test('a rule that would never come to rest is refused in a sentence', async () => {
  await page.goto('/workroom/photos?album=none')
  const album = (await json('/api/albums')).albums[0]
  await page.goto(`/workroom/photos?album=none&fills=${album.id}`)
  await page.getByRole('button', { name: 'Fill it so' }).click()
  await expect(page.getByText(/once in it, they are not found any more/)).toBeVisible()
  await page.getByRole('button', { name: 'Leave it as it is' }).click()
  await expect(page).toHaveURL(new RegExp(`/workroom/albums/${album.id}`))
})
