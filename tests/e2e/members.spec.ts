import { expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { making, oneMaker } from './making'

// Members: a list makes them, a page is for one group of theirs, a member comes by a link, sees it, and is out at once when they leave.
test.describe.configure({ mode: 'serial' })

let page: Page
let made: ReturnType<typeof making>
let member: Page
oneMaker((next) => {
  page = next
  made = making(page)
})

const dialog = () => page.getByRole('dialog', { name: /^Who sees/ })

test('a list makes members, and says which of its lines it passed over', async () => {
  await page.getByRole('link', { name: 'Visitors', exact: false }).first().click()
  await page.getByRole('link', { name: 'Members', exact: true }).click()
  await expect(page.getByText('Nobody yet')).toBeVisible()
  await page.getByLabel('Name of a new group').fill('Coxes')
  await page.getByRole('button', { name: 'Make it' }).click()
  await expect(page.getByLabel('Rename the group Coxes')).toBeVisible()
  await page.getByLabel('Names and addresses').fill('Ada Teal, ada@example.test\nsomebody\nBo Sandgate <bo@example.test>')
  await page.getByRole('combobox', { name: 'Put them into' }).selectOption({ label: 'Coxes' })
  await page.getByRole('combobox', { name: 'Whether each gets a letter' }).selectOption({ label: 'write to nobody' })
  await page.getByRole('button', { name: 'Add them' }).click()
  await expect(page.getByText('2 are members now. 2 joined the group.')).toBeVisible()
  await expect(page.getByText('Line 2, “somebody”: It has no e-mail address.')).toBeVisible()
  await noSeriousFinding(page)
  await page.getByLabel('Name or address').fill('bo@')
  await expect(page.getByText('1 of 2 members')).toBeVisible()
  await page.getByRole('button', { name: 'Look after Bo Sandgate' }).click()
  await page.getByRole('button', { name: 'Coxes', exact: true }).last().click()
  await expect(page.getByRole('listitem').filter({ hasText: 'Bo Sandgate' }).getByText('in no group')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByLabel('Name or address').fill('')
})

test('a page is for one group, whose member comes by a link without a script', async ({ browser }) => {
  await page.getByRole('button', { name: 'Look after Ada Teal' }).click()
  await page.getByRole('button', { name: 'Make a link' }).click()
  const link = await page.getByLabel('The link of Ada Teal').inputValue()
  await page.keyboard.press('Escape')
  await made.beginOf('For the coxes', /Regatta/)
  await made.publish()
  await page.getByRole('button', { name: /^Everyone can see this page/ }).click()
  await page.getByRole('button', { name: 'Change who sees this' }).click()
  await dialog().getByRole('radio', { name: /^Groups and members/ }).click()
  await expect(dialog().getByText('Choose a group or a member.')).toBeVisible()
  await dialog().getByRole('button', { name: 'Choose a group or a member' }).click()
  await page.getByRole('combobox', { name: 'Name of a group or a member' }).fill('cox')
  await page.getByRole('option', { name: /Coxes/ }).click()
  await expect(dialog().getByText('Everyone but the group “Coxes” loses this page.')).toBeVisible()
  await dialog().getByRole('button', { name: 'Say so' }).click()
  await expect(page.getByRole('button', { name: 'The group “Coxes” can see this page.', includeHidden: true })).toBeAttached()
  await noSeriousFinding(page)
  await page.keyboard.press('Escape')

  const context = await browser.newContext({ javaScriptEnabled: false, viewport: { width: 390, height: 844 } })
  member = await context.newPage()
  expect((await member.goto('/for-the-coxes'))?.status()).toBe(403)
  await expect(member.getByRole('heading', { name: 'For members' })).toBeVisible()
  await member.getByLabel('E-mail address').fill('ada@example.test')
  await member.getByLabel(/^Password/).fill('not this one')
  await member.getByRole('button', { name: 'Sign in' }).click()
  await expect(member.getByRole('alert')).toHaveText('This e-mail address and password do not belong together.')
  await member.goto(link)
  await expect(member.getByText('Welcome, Ada Teal.')).toBeVisible()
  await member.getByRole('button', { name: 'Sign me in' }).click()
  await member.goto('/for-the-coxes')
  await expect(member.getByText('You are signed in as a member.')).toBeVisible()
  await expect(member.locator('.photos img, .frames img, figure img').first()).toBeVisible()
})

test('who leaves is out at once', async ({ browser }) => {
  const scripted = await browser.newPage()
  await scripted.goto('/for-the-coxes')
  await noSeriousFinding(scripted)
  await scripted.close()
  await page.goto('/workroom/members')
  await page.getByRole('button', { name: 'Look after Ada Teal' }).click()
  await page.getByRole('button', { name: 'End the membership' }).click()
  await page.getByRole('dialog', { name: /no member any more/ }).getByRole('button', { name: 'End the membership' }).click()
  await expect(page.getByText('Ada Teal is no member any more.')).toBeVisible()
  expect((await member.goto('/for-the-coxes'))?.status()).toBe(403)
  await member.context().close()
})
