import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneBrowser } from './signIn'

// Starters and the site's front, on the site that the main job made: one album, Regatta, of twelve photos.
let page: Page
oneBrowser((one) => (page = one), '/workroom/starters')

const starter = (name: string) => page.getByRole('listitem', { name, exact: true })

test('a starter shows the owner’s own album in its place, and takes another', async () => {
  const report = starter('Event report')
  await expect(report.locator('img').first()).toBeVisible()
  await noSeriousFinding(page)
  // What is offered is taken away, and what is put in its place is the only one: a report has one album.
  await report.getByRole('button', { name: /^Take away / }).click()
  await expect(report.getByText('no album yet')).toBeVisible()
  await expect(report.locator('img')).toHaveCount(0)
  await report.getByRole('button', { name: '+ album' }).click()
  await page.getByRole('option', { name: /^Regatta/ }).first().click()
  await expect(report.getByRole('button', { name: 'Take away Regatta' })).toBeVisible()
  await expect(report.getByRole('button', { name: /^Take away / })).toHaveCount(1)
  await report.getByRole('button', { name: 'Make this page: Event report' }).click()
  await expect(page).toHaveURL(/\/workroom\/pages\//)
  await expect(page.getByRole('textbox', { name: 'Title' })).toHaveValue('Regatta')
  await expect(page.getByText('Only staff can see this page; it is a draft.')).toBeVisible()
  await expect(page.frameLocator('iframe[title^="Preview"]').locator('a.frame').first()).toBeVisible()
})

for (const name of ['Class page', 'Portfolio', 'Season overview', 'Sales gallery', 'Contact', 'Club home'])
  test(`the starter ${name} makes a page that can be published as it is`, async ({ browser }) => {
    await page.getByRole('button', { name: `Make this page: ${name}` }).click()
    await expect(page).toHaveURL(/\/workroom\/pages\//)
    await expect(page.frameLocator('iframe[title^="Preview"]').getByRole('heading').first()).toBeVisible()
    await page.getByRole('button', { name: 'Publish', exact: true }).click()
    await expect(page.getByText('Published. Everyone can see this page.')).toBeVisible()
    const address = await page.getByRole('link', { name: 'Open it' }).getAttribute('href')
    const visitor = await browser.newPage()
    expect((await visitor.goto(new URL(address ?? '', page.url()).href))?.status()).toBe(200)
    // An empty place shows visitors nothing.
    await expect(visitor.getByText('Type here')).toHaveCount(0)
    await noSeriousFinding(visitor)
    await visitor.close()
    await page.getByRole('button', { name: 'About the page' }).click()
    await page.getByRole('button', { name: 'Withdraw' }).click()
    await expect(page.getByText('Only staff can see this page; it is a draft.')).toBeVisible()
  })

test('the site gets another name, and visitors begin at a page', async ({ browser }) => {
  await page.goto('/workroom/site')
  const name = page.getByRole('textbox', { name: 'What the site is called' })
  await name.fill('')
  await expect(page.getByText('Give the site a name.')).toBeVisible()
  await name.fill('Sandling Rowers')
  await expect(page.getByText('Saved.')).toBeVisible()
  await expect(page.getByRole('complementary').getByText('Sandling Rowers')).toBeVisible()
  await page.getByRole('combobox', { name: 'Where visitors begin' }).selectOption({ label: 'Regatta in spring' })
  await expect(page.frameLocator('iframe[title^="Preview"]').getByRole('heading', { name: 'Regatta in spring' })).toBeVisible()
  const visitor = await browser.newPage()
  await visitor.goto('/')
  await expect(visitor.getByRole('heading', { name: 'Regatta in spring' })).toBeVisible()
  await expect(visitor).toHaveTitle('Regatta in spring · Sandling Rowers')
  // What one does at the start stays there.
  await visitor.getByRole('link', { name: /^opening/i }).click()
  await expect(visitor).toHaveURL(/\?show=opening-day$/)
  await visitor.close()
  await page.getByRole('combobox', { name: 'Where visitors begin' }).selectOption({ label: 'a list of all pages' })
  await page.getByRole('combobox', { name: 'What search engines may do' }).selectOption({ label: 'are asked not to list it' })
  await name.fill('Sandling Rowing Club')
  await expect(page.getByText('Saved.')).toBeVisible()
  await expect(async () => expect((await page.request.get('/')).headers()['x-robots-tag']).toBe('noindex')).toPass()
  await page.getByRole('combobox', { name: 'What search engines may do' }).selectOption({ label: 'may list it' })
  await expect(page.getByText('Saved.')).toBeVisible()
})

test('the first hour that was put away is taken up again', async () => {
  await page.goto('/workroom/site')
  await page.getByRole('button', { name: 'Take up the first hour again' }).click()
  await expect(page.getByRole('button', { name: 'Take up the first hour again' })).toHaveCount(0)
  await page.getByRole('link', { name: /^Desk/ }).click()
  await page.getByRole('region', { name: 'The first hour' }).getByRole('button', { name: 'Put the path away' }).click()
  await expect(page.getByRole('region', { name: 'The first hour' })).toHaveCount(0)
})
