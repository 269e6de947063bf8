import { execFileSync } from 'node:child_process'
import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser } from './signIn'

// Where albums stand: given a place at the Desk, dated, put first, taken out of view by one switch; what visitors find there.
let page: Page
let visitor: Page
oneBrowser((next) => {
  page = next
}, '/workroom/photos')

test.beforeAll(async ({ browser }) => {
  visitor = await browser.newPage()
})
test.afterAll(() => visitor.close())

const foot = () => page.getByRole('status').first()
const titles = () => visitor.locator('.index strong').allTextContents()

/** Makes an album of some photos of the sheet, by the doors that the workroom uses. */
const make = (name: string, from: number, to: number) =>
  page.evaluate(
    async ({ name, from, to }) => {
      const { forgery } = (await (await fetch('/api/session')).json()) as { forgery: string }
      const post = async (address: string, body: object) =>
        (await fetch(address, { method: 'POST', headers: { 'Content-Type': 'application/json', 'X-Jovitar-Forgery': forgery }, body: JSON.stringify(body) })).json()
      const sheet = (await (await fetch('/api/photos?sort=name')).json()) as { photos: { id: string }[] }
      const { id } = (await post('/api/albums', { workingName: name })) as { id: string }
      await post(`/api/albums/${id}/photos`, { photos: sheet.photos.slice(from, to).map((p) => p.id) })
    },
    { name, from, to },
  )

test('an album that stands nowhere is put in a category at the Desk, and is there for visitors', async () => {
  await expect(page.locator('#frame-3 img')).toBeVisible()
  await make('Low water', 0, 4)
  await make('High water', 4, 6)
  await page.goto('/workroom')
  await page.getByRole('button', { name: 'Put in a category: Low water' }).click()
  await page.getByRole('combobox', { name: 'Put it in a category' }).fill('Tides')
  await page.getByRole('option', { name: 'Make category “Tides”' }).click()
  await expect(foot()).toContainText('“Low water” stands in “Tides” now.')
  await expect(page.getByRole('button', { name: 'Put in a category: Low water' })).toHaveCount(0)
  await noSeriousFinding(page)

  await visitor.goto('/')
  await visitor.getByRole('link', { name: /Tides/ }).click()
  await visitor.getByRole('link', { name: /Low water/ }).click()
  await expect(visitor).toHaveURL(/\/album\/low-water$/)
  await expect(visitor.locator('a.frame')).toHaveCount(4)
  await visitor.locator('a.frame').nth(1).click()
  await expect(visitor.getByRole('dialog')).toBeVisible()
  await visitor.keyboard.press('ArrowRight')
  await expect(visitor.getByText('3 of 4')).toBeVisible()
  await visitor.keyboard.press('Escape')
  await expect(visitor.getByRole('dialog')).toHaveCount(0)
  await noSeriousFinding(visitor)
  await visitor.getByRole('link', { name: 'Tides' }).click()
  await expect(visitor.getByRole('heading', { level: 1 })).toHaveText('Tides')
})

test('dated, tagged, readdressed and taken out of view where it is read', async () => {
  await page.goto('/workroom/albums')
  await page.getByRole('link', { name: /Low water/ }).last().click()
  const standing = page.getByRole('region', { name: 'Where this album stands' })
  await standing.getByRole('button', { name: 'without a date of its own' }).click()
  await page.getByLabel('Date of this album').last().fill('2026-01-24')
  await page.getByRole('button', { name: 'Say so' }).click()
  await expect(standing.getByRole('button', { name: 'dated 24 January 2026' })).toBeVisible()
  await standing.getByRole('button', { name: '+ tag' }).click()
  await page.getByRole('combobox', { name: 'Tag of this album' }).fill('Ebb')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Escape')
  await expect(standing.getByRole('button', { name: 'Take tag “Ebb” off this album' })).toBeVisible()
  const address = standing.getByLabel('Address of its own page')
  await address.fill('ebb')
  await address.press('Enter')
  await expect(foot()).toContainText('It stands so from now on.')
  await noSeriousFinding(page)
  await visitor.goto('/album/low-water')
  await expect(visitor).toHaveURL(/\/album\/ebb$/)

  await page.getByRole('button', { name: 'Take out of view' }).click()
  await expect(page.getByText('Only staff can see this; it is out of view.')).toBeVisible()
  expect((await visitor.goto('/album/ebb'))?.status()).toBe(404)
  await visitor.goto('/category/tides')
  expect(await titles()).toEqual([])
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Take out of view' })).toBeVisible()
  expect((await visitor.goto('/album/ebb'))?.status()).toBe(200)
})

test('a category’s cover is brought in where it is chosen, and an album is in another order on every visit', async () => {
  await page.goto('/workroom/categories')
  await page.getByRole('button', { name: 'Its page: Tides' }).click()
  const shelf = page.getByRole('region', { name: 'The page of “Tides”' })
  await shelf.getByRole('button', { name: 'Choose its cover…' }).click()
  const picker = page.getByRole('dialog', { name: 'Which photos?' })
  await picker.locator('input[type=file]').setInputFiles({ name: 'spring tide.jpg', mimeType: 'image/jpeg', buffer: execFileSync('convert', ['-size', '1200x800', '-seed', '11', 'plasma:teal-white', 'jpg:-']) })
  await expect(picker.getByText('spring tide.jpg')).toBeVisible()
  await picker.locator('li button').first().click()
  await expect(foot()).toContainText('The page of “Tides” is so from now on.')
  await expect(shelf.getByText('Its cover is chosen.')).toBeVisible()

  await page.goto('/workroom/albums')
  await page.getByRole('link', { name: /Low water/ }).last().click()
  await page.getByLabel('In which order visitors find its photos').selectOption('in another order on every visit')
  await expect(foot()).toContainText('It stands so from now on.')
  const asked = visitor.waitForRequest(/\/site\/view\/album\/ebb\?.*lot=\d+/)
  await visitor.goto('/album/ebb')
  await asked
  await expect(visitor.locator('a.frame').first()).toBeVisible()
  await page.getByLabel('In which order visitors find its photos').selectOption('in its order')
  await expect(foot()).toContainText('It stands so from now on.')
})

test('a category lists its albums by date, or as they are placed there by keys, with one put first', async () => {
  await page.goto('/workroom/categories')
  await page.getByRole('button', { name: 'Its page: Tides' }).click()
  const shelf = page.getByRole('region', { name: 'The page of “Tides”' })
  await shelf.getByRole('button', { name: '+ album: Tides' }).click()
  await page.getByRole('combobox', { name: 'Put an album in it' }).fill('High')
  await expect(page.getByRole('option', { name: /High water/ })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(foot()).toContainText('“High water” stands in “Tides” now.')
  const albums = shelf.getByRole('listitem').getByRole('button', { name: /water/ })
  await expect(albums).toHaveText([/High water/, /Low water/])
  // A server that reads slowly: what was said to be so takes keys before it is read again.
  await page.route('**/api/categories', async (route) => {
    if (route.request().method() === 'GET') await new Promise((later) => setTimeout(later, 1500))
    await route.continue()
  })
  await shelf.getByLabel('In which order it shows albums').selectOption('as they are placed here')
  await expect(foot()).toContainText('The page of “Tides” is so from now on.')
  await albums.first().focus()
  await page.keyboard.press('ArrowRight')
  await expect(foot()).toContainText('Moved “High water”.')
  await page.unrouteAll({ behavior: 'wait' })
  await expect(albums).toHaveText([/Low water/, /High water/])
  await visitor.goto('/category/tides')
  expect(await titles()).toEqual(['Low water', 'High water'])
  await albums.last().click()
  await page.getByRole('button', { name: 'Put it first there' }).click()
  await expect(albums.first()).toHaveText(/High water.*first/)
  await noSeriousFinding(page)
  await visitor.reload()
  expect(await titles()).toEqual(['High water', 'Low water'])
  // Without scripts a category leads to the same.
  const plain = await visitor.context().browser()?.newPage({ javaScriptEnabled: false })
  await plain?.goto('/category/tides')
  await plain?.getByRole('link', { name: /High water/ }).click()
  await expect(plain?.locator('a.frame') ?? visitor.locator('none')).toHaveCount(2)
  await plain?.close()
})

test('a page is made of a category where that is arranged, and one for an entry of the menu where that is said', async () => {
  await page.goto('/workroom/categories')
  await page.getByRole('button', { name: 'Its page: Tides' }).click()
  const shelf = page.getByRole('region', { name: 'The page of “Tides”' })
  await shelf.getByRole('button', { name: 'Make a page of it' }).click()
  await expect(page.getByRole('region', { name: 'Running order' })).toContainText('Index')
  await expect(page.frameLocator('iframe[title^="Preview"]').getByRole('link', { name: /High water/ })).toBeVisible()
  await page.getByRole('button', { name: /^Publish(?!ed)/ }).click()
  await expect(page.getByRole('button', { name: 'Published', exact: true })).toBeVisible()
  await visitor.goto('/')
  const tides = visitor.locator('.index a', { hasText: 'Tides' })
  expect(new Set(await tides.evaluateAll((all) => all.map((a) => new URL((a as HTMLAnchorElement).href).pathname)))).toEqual(new Set(['/tides']))
  await page.goto('/workroom/categories')
  await page.getByRole('button', { name: 'Its page: Tides' }).click()
  await shelf.getByRole('button', { name: 'the page “Tides”' }).click()
  await noSeriousFinding(page)
  await page.getByRole('option', { name: 'its own page' }).click()
  await expect(foot()).toContainText('The page of “Tides” is so from now on.')
  await visitor.reload()
  expect(await tides.evaluateAll((all) => all.map((a) => new URL((a as HTMLAnchorElement).href).pathname))).toContain('/category/tides')

  await page.goto('/workroom/menu')
  await page.getByRole('button', { name: 'Add an entry' }).click()
  await page.getByRole('button', { name: 'choose it…' }).last().click()
  await page.getByRole('combobox', { name: 'Which one?' }).fill('Join the tide')
  await page.getByRole('option', { name: 'Make page “Join the tide”' }).click()
  await expect(page.getByRole('button', { name: 'Join the tide', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Remove' }).last().click()
  await page.getByRole('link', { name: /^Pages/ }).click()
  await expect(page.getByRole('link', { name: /Join the tide.*draft/ })).toHaveCount(2)
})

test('what a visitor opens in the viewer is counted, and what staff and robots open is not', async ({ browser }) => {
  const someone = await browser.newPage({ userAgent: 'Mozilla/5.0 (X11; Linux x86_64; rv:128.0) Gecko/20100101 Firefox/128.0' })
  await someone.goto('/album/ebb')
  await someone.locator('a.frame').first().click()
  await expect(someone.getByRole('dialog')).toBeVisible()
  const id = await someone.locator('a.frame').first().getAttribute('data-id')
  await someone.close()
  // The browser of the tests says that it is a robot, and the page that is signed in is staff's.
  await visitor.goto(`/album/ebb/photo/${id}`)
  await page.goto(`/album/ebb/photo/${id}`)
  await page.goto(`/workroom/photos?photo=${id}`)
  await expect.poll(async () => (await (await page.request.get(`/api/photos/${id}`)).json()).views, { timeout: 30_000 }).toBe(1)
  await page.reload()
  await expect(page.getByText('Visitors have looked at it once.')).toBeVisible()
})

test('an album for everyone with its link is handed on by it, and stands in no list', async () => {
  await page.goto('/workroom/photos')
  await make('Proofs', 0, 2)
  await page.goto('/workroom')
  await page.getByRole('button', { name: 'Put in a category: Proofs' }).click()
  await page.getByRole('combobox', { name: 'Put it in a category' }).fill('Proofing')
  await page.getByRole('option', { name: 'Make category “Proofing”' }).click()
  await expect(foot()).toContainText('“Proofs” stands in “Proofing” now.')
  await visitor.goto('/category/proofing')
  await expect(visitor.getByRole('link', { name: /Proofs/ })).toBeVisible()

  await page.goto('/workroom/albums')
  await page.getByRole('main').getByRole('link', { name: /Proofs/ }).first().click()
  // Nobody may say anything about its photos: then there is nobody to choose for that.
  await expect(page.getByRole('combobox', { name: 'Who may say something about its photos' })).toHaveCount(0)
  await page.getByRole('button', { name: 'Everyone can see this, on one page.' }).click()
  await page.getByRole('button', { name: 'Change who sees this' }).click()
  const dialog = page.getByRole('dialog', { name: /^Who sees/ })
  await dialog.getByRole('radio', { name: /^Everyone with the link/ }).click()
  await expect(dialog.getByText('Everyone but who has its link loses this album.')).toBeVisible()
  await dialog.getByRole('button', { name: 'Say so' }).click()
  const link = await dialog.getByRole('region', { name: 'The link' }).locator('.select-all').textContent()
  expect(link).toMatch(/\/album\/proofs-[2-9a-z]{26}$/)
  await noSeriousFinding(page)
  await page.keyboard.press('Escape')
  await expect(page.getByRole('button', { name: 'Everyone with its link can see this.' })).toBeVisible()

  await visitor.goto(link ?? '')
  await expect(visitor.locator('a.frame')).toHaveCount(2)
  await expect(visitor.locator('meta[name="robots"][content*="noindex"]')).toHaveCount(1)
  await visitor.goto('/category/proofing')
  await expect(visitor.getByRole('link', { name: /Proofs/ })).toHaveCount(0)
  expect((await visitor.goto('/album/proofs'))?.status()).toBe(404)
})

test('what is offered is reserved for members by the category, and the album says so', async () => {
  await page.goto('/workroom/albums')
  await page.getByRole('main').getByRole('link', { name: /Proofs/ }).first().click()
  const own = page.getByRole('region', { name: 'For whom it is' })
  await expect(own).toContainText('What is offered is for everyone who sees its photos.')
  await own.getByRole('button', { name: 'Reserve it for some' }).click()
  await own.getByRole('combobox', { name: 'Saving its photos is for' }).selectOption('members')
  await expect(own).toContainText('Of what is offered, reserved: saving for all members.')
  // Without anybody named nothing is said yet.
  await own.getByRole('combobox', { name: 'In full size, for' }).selectOption('chosen')
  await expect(own).toContainText('Nobody is chosen yet.')
  await noSeriousFinding(page)
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect(own).toContainText('What is offered is for everyone who sees its photos.')

  await page.goto('/workroom/categories')
  await page.getByRole('button', { name: 'Its page: Proofing' }).click()
  const category = page.getByRole('region', { name: 'For whom it is' })
  await category.getByRole('button', { name: 'Reserve it for some' }).click()
  await category.getByRole('combobox', { name: 'Comments and ratings, for' }).selectOption('known')
  await expect(category).toContainText('saying something for visitors who came by an entry link or signed in')
  await page.goto('/workroom/albums')
  await page.getByRole('main').getByRole('link', { name: /Proofs/ }).first().click()
  await expect(own).toContainText('The category “Proofing” reserves saying something about them for visitors who came by an entry link or signed in.')
})
