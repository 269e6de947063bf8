import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser } from './signIn'

// The sheet is narrowed by a sentence whose parts are pressed; what each choice would find is what it then finds.
let page: Page
oneBrowser((next) => {
  page = next
}, '/workroom/photos')

test.beforeEach(() => expect(page.locator('#frame-3 img')).toBeVisible())

const json = async (address: string) => (await page.request.get(address)).json()
const found = () => page.locator('#frame-0').getAttribute('aria-setsize')
const sentence = () => page.getByRole('group', { name: 'What the sheet shows' })

/** Presses the first choice of what is open and gives the count that stood beside it. */
async function choose(name: RegExp) {
  const choice = sentence().getByRole('region').getByRole('button', { name }).first()
  const count = (await choice.innerText()).split('\n').at(-1)?.trim()
  await choice.click()
  return count
}

test('a tag is chosen, its count comes true, it is turned round, and all is shown again', async () => {
  const all = Number(await found())
  await page.keyboard.press('n')
  await sentence().getByRole('button', { name: 'Tag', exact: true }).click()
  const tag = (await json('/api/tags')).tags[0]
  const count = await choose(new RegExp(`^${tag.name}`))
  expect(Number(count)).toBe(tag.photos)
  await expect.poll(found).toBe(String(tag.photos))
  await expect(sentence()).toContainText(`${tag.photos} photos tagged ${tag.name}.`)
  await expect(page).toHaveURL(new RegExp(`tag=${tag.id}`))
  await page.getByRole('button', { name: `Take all ${tag.photos} in hand` }).click()
  await expect(page.getByTestId('in-hand')).toHaveText(`${tag.photos} in hand`)
  await page.getByRole('button', { name: 'Let go' }).click()
  await noSeriousFinding(page)
  await sentence().getByRole('button', { name: 'Turn round: all but these' }).click()
  await expect.poll(found).toBe(String(all - tag.photos))
  await expect(sentence()).toContainText(`not tagged ${tag.name}`)
  await page.reload()
  await expect.poll(found).toBe(String(all - tag.photos))
  await expect(sentence()).toContainText(`not tagged ${tag.name}`)
  await sentence().getByRole('button', { name: 'Show all photos' }).click()
  await expect.poll(found).toBe(String(all))
  await expect(page).toHaveURL(/\/workroom\/photos$/)
})

test('parts join by “and”, choices of one part by “or”, and each is pressed to be changed', async () => {
  await page.keyboard.press('n')
  await sentence().getByRole('button', { name: 'Shape', exact: true }).click()
  const landscape = Number(await choose(/^landscape/))
  await expect.poll(found).toBe(String(landscape))
  const portrait = Number(await choose(/^portrait/))
  await expect.poll(found).toBe(String(landscape + portrait))
  await expect(sentence()).toContainText('landscape or portrait')
  await sentence().getByRole('button', { name: 'Album', exact: true }).click()
  const inAlbum = await choose(/^Regatta/)
  await expect.poll(found).toBe(inAlbum)
  await expect(sentence()).toContainText(/photos in Regatta, landscape or portrait/)
  await page.keyboard.press('Escape')
  await expect(sentence().getByRole('region')).toHaveCount(0)
  await sentence().getByRole('button', { name: 'landscape or portrait' }).click()
  await choose(/^portrait/)
  await sentence().getByRole('button', { name: 'Leave this part out' }).click()
  await expect.poll(found).toBe(String((await json('/api/albums')).albums.find((a: { workingName: string }) => a.workingName === 'Regatta').photos))
})

test('times are brushed on the bars, and words join what is said', async () => {
  await page.keyboard.press('n')
  const bars = sentence().getByRole('region', { name: 'Taken' }).getByRole('button', { name: /photos?$/ })
  await expect(bars.first()).toBeVisible()
  const parts = (await json('/api/photos/counts')).parts
  const taken = parts.find((p: { kind: string }) => p.kind === 'taken').choices.filter((c: { choice: string }) => c.choice !== 'none')
  const [from, to] = [await bars.first().boundingBox(), await bars.last().boundingBox()]
  if (!from || !to) throw new Error('the bars have no place')
  await page.mouse.move(from.x + from.width / 2, from.y + 50)
  await page.mouse.down()
  await page.mouse.move(to.x + to.width / 2, to.y + 50, { steps: 8 })
  await page.mouse.up()
  const sum = taken.reduce((n: number, c: { count: number }) => n + c.count, 0)
  await expect.poll(found).toBe(String(sum))
  await expect(sentence()).toContainText(/taken .+ to .+/)
  await page.keyboard.press('Escape')
  await page.keyboard.press('/')
  await page.keyboard.type('mbk')
  await expect(sentence()).toContainText('with “mbk”')
  const address = new URL(page.url()).search
  await expect.poll(found).toBe(String((await json(`/api/photos${address}`)).total))
  await noSeriousFinding(page)
})

test('what stands beneath a frame is a choice that stays', async () => {
  const first = (await json('/api/photos')).photos[0]
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(first.title || first.fileName)
  await page.getByRole('combobox', { name: 'beneath' }).selectOption({ label: 'file name' })
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(first.fileName)
  await page.reload()
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(first.fileName)
  await page.getByRole('combobox', { name: 'beneath' }).selectOption({ label: 'title' })
  await page.getByRole('combobox', { name: 'by' }).selectOption({ label: 'title, A to Z' })
  const byTitle = (await json('/api/photos?sort=title')).photos.map((p: { title: string }) => p.title)
  await expect(page.locator('#frame-0 [data-open]')).toHaveText(byTitle[0])
  await expect(page).toHaveURL(/sort=title/)
})

test('photos are decided on and rated by key, on the sheet and on the plate, each going on to the next', async () => {
  await page.getByRole('combobox', { name: 'beneath' }).selectOption({ label: 'rating and decision' })
  const ids = (await json('/api/photos')).photos.map((p: { id: string }) => p.id)
  const of = async (n: number) => {
    const { decision, rating } = await json(`/api/photos/${ids[n]}`)
    return `${decision} ${rating}`
  }
  const [first, second, third] = [await of(0), await of(1), await of(2)]
  await page.keyboard.press('Home')
  await page.keyboard.press('k')
  await expect.poll(() => page.evaluate(() => document.activeElement?.id)).toBe('frame-1')
  await page.keyboard.press('j')
  await expect.poll(() => of(0)).toBe(`keep ${first.split(' ')[1]}`)
  await expect.poll(() => of(1)).toBe(`doubt ${second.split(' ')[1]}`)
  await expect(page.locator('#frame-0')).toContainText('kept')
  await expect(page.locator('#frame-1')).toContainText('in doubt')
  // How many are left is said, and leads to them.
  const undecided = (await json('/api/photos?decision=none')).total
  await expect(page.getByRole('link', { name: `${undecided} not yet decided` })).toHaveAttribute('href', /decision=none/)
  await page.keyboard.press('Enter')
  await expect(page).toHaveURL(new RegExp(ids[2]))
  await expect(page.getByRole('button', { name: 'Keep' })).toHaveAttribute('aria-pressed', 'false')
  await page.keyboard.press('4')
  await expect(page).toHaveURL(new RegExp(ids[3]))
  await expect.poll(() => of(2)).toBe(`${third.split(' ')[0]} 4`)
  await page.keyboard.press('ArrowLeft')
  await expect(page.getByRole('button', { name: 'Rate it 4' })).toHaveAttribute('aria-pressed', 'true')
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(page.getByRole('button', { name: 'Keep' })).toHaveAttribute('aria-pressed', 'true')
  await expect(page).toHaveURL(new RegExp(ids[2]))
  await page.getByRole('status').first().getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('button', { name: 'Keep' })).toHaveAttribute('aria-pressed', 'false')
  // Only what is undecided: what is decided leaves the sheet by itself.
  await page.goto('/workroom/photos?decision=none')
  await expect(page.locator('#frame-0 img')).toBeVisible()
  const left = Number(await found())
  await page.keyboard.press('Home')
  await page.keyboard.press('k')
  await expect.poll(found).toBe(String(left - 1))
  await page.getByRole('status').first().getByRole('button', { name: 'Undo' }).click()
  await expect.poll(found).toBe(String(left))
  // Several in hand are decided on at once.
  await page.goto('/workroom/photos')
  await page.locator('#frame-0').click()
  await page.locator('#frame-2').click({ modifiers: ['Shift'] })
  await page.keyboard.press('0')
  await expect(page.getByRole('status').first()).toContainText('Took the rating of 3 photos back.')
  await page.getByRole('status').first().getByRole('button', { name: 'Undo' }).click()
  await page.keyboard.press('Escape')
  await page.getByRole('combobox', { name: 'beneath' }).selectOption({ label: 'title' })
})

test('a narrowing is kept under a name, stands in the contents, is renamed, let go, and comes back', async () => {
  await page.goto('/workroom/photos?shape=landscape&sort=name')
  await expect(page.locator('#frame-0 img')).toBeVisible()
  await page.getByRole('button', { name: 'keep under a name…' }).click()
  await page.getByRole('textbox', { name: 'Name' }).fill('Lying down')
  await noSeriousFinding(page)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'kept as “Lying down”' })).toBeVisible()
  await page.goto('/workroom/photos')
  await page.getByRole('link', { name: /^Lying down/ }).click()
  await expect(page).toHaveURL(/shape=landscape/)
  await expect(page.getByRole('link', { name: /^Lying down/ })).toHaveAttribute('aria-current', 'page')
  await page.getByRole('button', { name: 'kept as “Lying down”' }).click()
  await page.getByRole('textbox', { name: 'Name' }).fill('Landscapes')
  await page.getByRole('button', { name: 'Rename it' }).click()
  await page.getByRole('button', { name: 'kept as “Landscapes”' }).click()
  await page.getByRole('button', { name: 'Let it go' }).click()
  await expect(page.getByRole('link', { name: /^Landscapes/ })).toBeHidden()
  await page.getByRole('status').getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByRole('link', { name: /^Landscapes/ })).toBeVisible()
  await page.getByRole('button', { name: 'kept as “Landscapes”' }).click()
  await page.getByRole('button', { name: 'Let it go' }).click()
  await expect(page.getByRole('link', { name: /^Landscapes/ })).toBeHidden()
})
