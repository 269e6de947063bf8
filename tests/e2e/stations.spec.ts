import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser, signIn } from './signIn'

let page: Page
oneBrowser((next) => {
  page = next
}, '/workroom')

const json = async (address: string) => (await page.request.get(address)).json()
const foot = () => page.getByRole('status').first()

async function toPhotos() {
  await page.getByRole('link', { name: /^Photos/ }).click()
  await expect(page.locator('#frame-7 img')).toBeVisible()
}

test('the sheet is walked, taken in hand and let go with the keyboard alone', async () => {
  await toPhotos()
  const active = () => page.evaluate(() => document.activeElement?.id)
  await page.keyboard.press('Home')
  await expect.poll(active).toBe('frame-0')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('Space')
  await expect(page.getByText('1 in hand')).toBeVisible()
  await expect(page.locator('#frame-1')).toHaveAttribute('aria-selected', 'true')
  await page.keyboard.press('Shift+ArrowRight')
  await page.keyboard.press('Shift+ArrowRight')
  await expect(page.getByText('3 in hand')).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await expect.poll(async () => Number((await active())?.split('-')[1])).toBeGreaterThan(4)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Title' })).toBeVisible()
  await page.keyboard.press('Escape')
  // Back from the plate one stands where one was, and what was in hand still is.
  await expect(page.getByText('3 in hand')).toBeVisible()
  const last = Number(await page.locator('[aria-setsize]').first().getAttribute('aria-setsize')) - 1
  await page.keyboard.press('End')
  await expect.poll(active).toBe(`frame-${last}`)
  await expect(page.locator(`#frame-${last}`)).toBeInViewport()
  await page.keyboard.press('Escape')
  await expect(page.getByText(/^\d+ in hand$/)).not.toBeVisible()
})

test('search, tag, category and order narrow the sheet, stand in its address and survive a reload', async () => {
  await toPhotos()
  const all = Number(await page.locator('#frame-0').getAttribute('aria-setsize'))
  await page.keyboard.press('/')
  await expect(page.getByRole('searchbox')).toBeFocused()
  const name = (await json('/api/photos?sort=name')).photos[3].fileName.replace('.jpg', '').toLowerCase()
  const fits = String((await json(`/api/photos?q=${name}`)).total)
  await page.keyboard.type(name)
  await expect(page.locator('#frame-0')).toHaveAttribute('aria-setsize', fits)
  await expect(page).toHaveURL(new RegExp(`q=${name}`))
  await page.reload()
  await expect(page.getByRole('searchbox')).toHaveValue(name)
  await expect(page.locator('#frame-0')).toHaveAttribute('aria-setsize', fits)
  await page.getByRole('searchbox').fill('nothing is called so')
  await expect(page.getByText('No photo fits this narrowing.')).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Show all photos' }).last().click()
  await expect(page.locator('#frame-0')).toHaveAttribute('aria-setsize', String(all))
  await page.getByRole('combobox', { name: 'by' }).selectOption({ label: 'file name, A to Z' })
  const first = (await json('/api/photos?sort=name')).photos[0]
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(first.title || first.fileName)
  await page.keyboard.press('n')
  await page.getByRole('button', { name: 'Tag', exact: true }).click()
  const tag = (await json('/api/tags')).tags[0]
  await page.getByRole('region', { name: 'Tag' }).getByRole('button', { name: new RegExp(`^${tag.name}`) }).first().click()
  await expect(page.locator('#frame-0')).toHaveAttribute('aria-setsize', String(tag.photos))
  await page.reload()
  await expect(page.locator('#frame-0')).toHaveAttribute('aria-setsize', String(tag.photos))
  await expect(page.getByRole('button', { name: `tagged ${tag.name}` })).toBeVisible()
})

test('categories are made, renamed, ordered, moved beneath another and thrown away, each to be taken back', async () => {
  await page.getByRole('link', { name: /^Photos/ }).click()
  await page.getByRole('link', { name: 'Categories' }).click()
  // As it is kept, once the page shows it so: a key goes by what the page shows.
  const tree = async () => {
    const kept: string[] = (await json('/api/categories')).categories.map((c: { name: string; depth: number }) => `${'>'.repeat(c.depth)}${c.name}`)
    const shown = await page.locator('[data-line]').evaluateAll((lines) => lines.map((line) => `${'>'.repeat(Math.round(Number.parseFloat((line as HTMLElement).style.paddingLeft) / 28))}${line.querySelector('input')?.value}`))
    return JSON.stringify(kept) === JSON.stringify(shown) ? kept : ['the page is not there yet']
  }
  for (const name of ['Races', 'Boats']) {
    await page.getByRole('button', { name: 'New category' }).click()
    await page.getByRole('textbox', { name: 'Name' }).last().fill(name)
    await page.keyboard.press('Enter')
    await expect.poll(tree).toContain(name)
  }
  const before = await tree()
  // By keys on its handle: up, down again, beneath the one before it, out of it, and beneath it again.
  const handle = page.getByRole('button', { name: 'Move: Boats', exact: true })
  await handle.focus()
  await page.keyboard.press('ArrowUp')
  await expect.poll(async () => (await tree()).indexOf('Boats')).toBe(before.indexOf('Races'))
  await page.keyboard.press('ArrowDown')
  await expect.poll(tree).toEqual(before)
  await page.keyboard.press('ArrowRight')
  await expect.poll(tree).toContain('>Boats')
  await page.keyboard.press('ArrowLeft')
  await expect.poll(tree).toEqual(before)
  // By the pointer: below the line of the other, and to the right.
  const [from, to] = [await handle.boundingBox(), await page.getByRole('button', { name: 'Move: Races', exact: true }).boundingBox()]
  if (!from || !to) throw new Error('the handles have no place')
  await page.mouse.move(from.x + 5, from.y + 10)
  await page.mouse.down()
  await page.mouse.move(from.x + 5, to.y + 30, { steps: 4 })
  await page.mouse.move(from.x + 40, to.y + 32, { steps: 4 })
  await expect(page.getByTestId('landing')).toBeAttached()
  await page.mouse.up()
  await expect.poll(tree).toContain('>Boats')
  // Described, and out of view with what stands beneath it.
  await page.getByRole('button', { name: 'Describe: Races' }).click()
  await page.getByRole('textbox', { name: 'What it is about: Races' }).fill('Who came first')
  await page.keyboard.press('Tab')
  await expect.poll(async () => JSON.stringify(await json('/api/categories'))).toContain('Who came first')
  await page.getByRole('button', { name: 'Take out of view: Races' }).click()
  await expect(foot()).toContainText('“Races” is out of view')
  await expect(page.getByText('out of view with “Races”')).toBeVisible()
  await page.getByRole('button', { name: 'Bring back into view: Races' }).click()
  await expect(page.getByText('out of view with “Races”')).toHaveCount(0)
  const boats = page.locator('main').getByRole('textbox', { name: 'Name' }).last()
  await expect(boats).toHaveValue('Boats')
  await boats.fill('Boats and oars')
  await boats.press('Enter')
  await expect.poll(tree).toContain('>Boats and oars')
  await expect(foot()).toContainText('Changed “Boats and oars”.')
  await noSeriousFinding(page)
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect.poll(tree).toContain('>Boats')
  await page.getByRole('button', { name: 'Remove: Races' }).click()
  await expect(foot()).toContainText('“Races” and all beneath it are in the bin.')
  await expect.poll(async () => (await tree()).join()).not.toContain('Boats')
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect.poll(tree).toContain('>Boats')
  await page.getByRole('button', { name: 'Remove: Boats' }).click()
  await expect(foot()).toContainText('“Boats” is in the bin.')
})

test('what cannot be written is said, kept, and written by itself when the server answers again', async () => {
  await toPhotos()
  await page.locator('#frame-9').dblclick()
  const title = page.getByRole('textbox', { name: 'Title' })
  await expect(title).toBeVisible()
  const address = `/api/photos/${new URL(page.url()).searchParams.get('photo')}`
  let away = true
  await page.route(`**${address}`, (route) =>
    route.request().method() === 'PATCH' && away ? route.abort('connectionrefused') : route.continue(),
  )
  await title.fill('Typed while the line was down')
  await expect(page.getByText('The server does not answer.', { exact: false }).first()).toBeVisible()
  await expect(title).toHaveValue('Typed while the line was down')
  await expect(page.getByText('Saved.')).not.toBeVisible()
  away = false
  await expect(page.getByText('Saved.')).toBeVisible()
  expect((await json(address)).title).toBe('Typed while the line was down')
  // A word that is too long is refused with its reason, and stays where it was typed.
  const long = 'x'.repeat(301)
  await title.fill(long)
  await expect(page.getByText('This may have 300 characters.', { exact: false }).first()).toBeVisible()
  await expect(title).toHaveValue(long)
  await title.fill('Short enough')
  await expect.poll(async () => (await json(address)).title).toBe('Short enough')
})

test('the plate takes tags and categories on and off, and goes to the next photo with what is typed saved', async () => {
  await toPhotos()
  await page.locator('#frame-12').dblclick()
  const id = () => new URL(page.url()).searchParams.get('photo')
  const first = id()
  await page.getByRole('button', { name: '+ tag' }).click()
  await page.getByRole('combobox').last().fill('At dawn')
  await page.keyboard.press('Enter')
  await expect.poll(async () => (await json(`/api/photos/${first}`)).tags.map((t: { name: string }) => t.name)).toContain('At dawn')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Take off At dawn' }).click()
  await expect.poll(async () => (await json(`/api/photos/${first}`)).tags.map((t: { name: string }) => t.name)).not.toContain('At dawn')
  await page.getByRole('textbox', { name: 'Caption' }).fill('Said in passing')
  await page.getByRole('button', { name: /next/ }).click()
  await expect.poll(id).not.toBe(first)
  await expect.poll(async () => (await json(`/api/photos/${first}`)).caption).toBe('Said in passing')
  await expect(page.getByRole('textbox', { name: 'Caption' })).not.toHaveValue('Said in passing')
  await page.getByRole('button', { name: /previous/ }).click()
  await expect(page.getByRole('textbox', { name: 'Caption' })).toHaveValue('Said in passing')
  await page.getByRole('button', { name: 'Leave out everywhere' }).click()
  await expect(page.getByText('left out', { exact: false }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Use it again' }).click()
  await expect(page.getByRole('button', { name: 'Leave out everywhere' })).toBeVisible()
})

test('one’s password is changed where one knows the present one, and all other browsers are out', async ({ browser }) => {
  const other = await (await browser.newContext()).newPage()
  await signIn(other)
  await page.getByRole('link', { name: 'Account' }).click()
  const change = async (current: string, next: string) => {
    await page.getByLabel('Present password').fill(current)
    await page.getByLabel('New password', { exact: false }).fill(next)
    const answer = page.waitForResponse((r) => r.url().endsWith('/api/account/password'))
    await page.getByRole('button', { name: 'Change it' }).click()
    return (await answer).status()
  }
  expect(await change('wind from the south-west', 'short')).toBe(400)
  await expect(page.getByText('Take at least 10 characters', { exact: false })).toBeVisible()
  expect(await change('not the present one', 'wind from the north-east')).toBe(400)
  await expect(page.getByText('This is not your present password.')).toBeVisible()
  await noSeriousFinding(page)
  expect(await change('wind from the south-west', 'wind from the north-east')).toBe(204)
  await expect(page.getByText('The password is changed.', { exact: false })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Sign it out' })).toHaveCount(0)
  await other.goto('/workroom/photos')
  await expect(other.getByRole('button', { name: 'Sign in' })).toBeVisible()
  await other.close()
  expect(await change('wind from the north-east', 'wind from the south-west')).toBe(204)
})

test('a second page takes no address that is taken, is laid out otherwise, and publishing is taken back', async () => {
  await toPhotos()
  await page.locator('#frame-2').click()
  await page.locator('#frame-6').click({ modifiers: ['Shift'] })
  await page.keyboard.press('a')
  await page.getByRole('combobox', { name: 'Put into' }).fill('Autumn heads')
  await page.keyboard.press('Enter')
  await expect(foot()).toContainText('Autumn heads')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: /^Albums/ }).click()
  await page.locator('main').getByRole('link', { name: /Autumn heads/ }).click()
  await page.getByRole('button', { name: 'Make a page' }).click()
  // An album has an address, too.
  await expect(page).toHaveURL(/\/workroom\/pages\//)
  const address = page.getByRole('textbox', { name: 'Address' })
  await expect(address).toHaveValue('autumn-heads')
  await address.fill('regatta')
  await address.press('Enter')
  await expect(page.getByText('Another page has the address “regatta”.')).toBeVisible()
  await address.fill('autumn')
  await address.press('Enter')
  await page.getByRole('button', { name: /^Settings of Photos/ }).click()
  for (const layout of ['columns', 'grid']) {
    await page.getByRole('combobox', { name: 'Layout' }).selectOption(layout)
    await expect(page.getByText('Saved.')).toBeVisible()
  }
  // What the software noticed: which layout suits.
  const notes = page.getByRole('list', { name: 'Notes in the margin' })
  await expect(notes).toContainText('suit')
  await page.getByRole('combobox', { name: 'Gap between photos' }).selectOption({ label: 'apart by so many pixels:' })
  const gap = page.getByRole('textbox', { name: /^Gap/ })
  await gap.fill('900')
  await gap.press('Enter')
  await expect(gap).toHaveValue('80')
  await gap.press('ArrowDown')
  await expect(gap).toHaveValue('79')
  await expect(page.getByText('Saved.')).toBeVisible()
  expect((await page.request.get('/autumn')).status()).toBe(404)
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(foot()).toContainText('Published.')
  expect((await page.request.get('/autumn')).status()).toBe(200)
  await foot().getByRole('button', { name: 'Undo' }).click()
  await expect.poll(async () => (await page.request.get('/autumn')).status()).toBe(404)
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect.poll(async () => (await page.request.get('/autumn')).status()).toBe(200)
  await page.getByRole('button', { name: 'About the page' }).click()
  await page.getByRole('button', { name: 'Withdraw' }).click()
  await expect(foot()).toContainText('Withdrawn.')
  expect((await page.request.get('/autumn')).status()).toBe(404)
  await noSeriousFinding(page)
})

test('dimmed and folded, the workroom stays so over a reload', async () => {
  await page.getByRole('button', { name: 'Dim' }).click()
  await page.getByRole('button', { name: 'Fold' }).click()
  await noSeriousFinding(page)
  await page.reload()
  await expect(page.getByRole('button', { name: 'Light' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Unfold' })).toBeVisible()
  await page.keyboard.press('f')
  await page.keyboard.press('d')
  await expect(page.getByRole('button', { name: 'Dim' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Fold', exact: true })).toBeVisible()
})

test('an address of nothing, and a photo that is gone, say so and lead back', async () => {
  await page.goto('/workroom/nowhere')
  await expect(page.getByText('There is nothing here.')).toBeVisible()
  await page.getByRole('link', { name: 'Back to the desk' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
  await page.goto('/workroom/photos?photo=00000000-0000-7000-8000-000000000000')
  await expect(page.getByRole('button', { name: 'Back to the sheet' })).toBeVisible()
  await page.getByRole('button', { name: 'Back to the sheet' }).click()
  await expect(page.locator('#frame-7 img')).toBeVisible()
})

test('photos that become ready while their number stays are read at once', async () => {
  const other = await page.context().newPage()
  const figures = await json('/api/desk/figures')
  let tell = () => {}
  const shown = new Promise<void>((resolve) => {
    tell = resolve
  })
  // The line says two things and is down from then on.
  await other.route('**/api/desk/news', (route) => route.abort())
  await other.route('**/api/desk/news', async (route) => {
    await shown
    await route.fulfill({ contentType: 'text/event-stream', body: [1, 0].map((waiting) => `event: figures\ndata: ${JSON.stringify({ ...figures, waiting })}\n\n`).join('') })
  }, { times: 1 })
  await other.goto('/workroom/photos')
  await expect(other.locator('#frame-0 img')).toBeVisible()
  await other.waitForTimeout(1000)
  const read = other.waitForRequest(/\/api\/photos\?/, { timeout: 10_000 })
  tell()
  await read
  await other.close()
})
