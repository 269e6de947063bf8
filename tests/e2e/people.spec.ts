import { type ParsedMail, simpleParser } from 'mailparser'
import { expect, type Page, test } from '@playwright/test'
import { SMTPServer } from 'smtp-server'
import { noSeriousFinding } from './axe'
import { signIn } from './signIn'

// People are asked by letter, come in, and are let go. The letters are received by a mail server that is not ours
// (smtp-server from npm) and read by a reader that is not ours (mailparser): the standards between (RFC 5321, RFC 5322) are checked so.
const letters: ParsedMail[] = []
const post = new SMTPServer({
  authOptional: true,
  disabledCommands: ['AUTH', 'STARTTLS'],
  onData: (stream, _, done) => void simpleParser(stream).then((letter) => (letters.push(letter), done()), done),
})

test.beforeAll(() => new Promise<void>((ready) => post.listen(Number(process.env.JOVITAR_MAIL_PORT), '127.0.0.1', ready)))
test.afterAll(() => new Promise<void>((ended) => post.close(ended)))

/** The link in the newest letter to somebody. What others were written while nobody took it may come, too. */
async function linkTo(address: string, count: number) {
  const theirs = () => letters.filter((letter) => [letter.to].flat()[0]?.text.includes(address))
  await expect.poll(() => theirs().length).toBe(count)
  const letter = theirs().at(-1)
  expect(letter?.from?.value[0]).toEqual({ address: 'rowers@example.test', name: expect.stringMatching(/.+/) })
  expect(letter?.headers.get('auto-submitted')).toBe('auto-generated')
  return letter?.text?.match(/http:\/\/\S+#\S+/)?.[0] ?? ''
}

const row = (page: Page, name: string) => page.getByRole('listitem').filter({ hasText: name })
let nell: Page

test('the owner invites somebody, whose letter lets them in once', async ({ page, browser }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'People' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Nell Harrow')
  await page.getByLabel('E-mail address').fill('odile@example.test')
  await page.getByRole('button', { name: 'Invite', exact: true }).click()
  await expect(page.getByText('Somebody with this address works here already.')).toBeVisible()
  await page.getByLabel('E-mail address').fill('nell@example.test')
  await page.getByRole('button', { name: 'Invite', exact: true }).click()
  await expect(row(page, 'nell@example.test')).toContainText('as an editor')
  await expect(row(page, 'nell@example.test')).toContainText('The letter is sent.')
  await noSeriousFinding(page)

  nell = await (await browser.newContext()).newPage()
  const link = await linkTo('nell@example.test', 1)
  await nell.goto(link)
  await expect(nell.getByRole('heading', { name: /^Come in to / })).toBeVisible()
  await expect(nell.getByText('Odile Brandt invites you as an editor. You sign in as nell@example.test.')).toBeVisible()
  await noSeriousFinding(nell)
  await nell.getByLabel(/^Password/).fill('short')
  await nell.getByRole('button', { name: 'Come in' }).click()
  await expect(nell.getByText('Take at least 10 characters')).toBeVisible()
  await nell.getByLabel(/^Password/).fill('a kite and a long tail')
  await nell.getByRole('button', { name: 'Come in' }).click()
  await expect(nell.getByRole('heading', { name: 'Desk' })).toBeVisible()
  expect(nell.url()).not.toContain('#')
  await expect(nell.getByRole('link', { name: 'People' })).toHaveCount(0)

  const late = await (await browser.newContext()).newPage()
  await late.goto(link)
  await expect(late.getByText('This link is not good any more.')).toBeVisible()
  await late.getByRole('link', { name: 'To the way in' }).click()
  await expect(late.getByLabel('Password')).toBeVisible()
  await late.context().close()
})

test('who has forgotten the password comes in by a letter and chooses another', async () => {
  await nell.getByRole('button', { name: 'Sign out' }).click()
  await nell.getByRole('button', { name: 'Have a link sent' }).click()
  await nell.getByLabel('E-mail address').fill('nell@example.test')
  await nell.getByRole('button', { name: 'Send me the link' }).click()
  await expect(nell.getByRole('heading', { name: 'Look into your mail' })).toBeVisible()
  await nell.goto(await linkTo('nell@example.test', 2))
  await nell.getByLabel('A new password, if you have forgotten yours').fill('another kite altogether')
  await nell.getByRole('button', { name: 'Sign in' }).click()
  await expect(nell.getByRole('heading', { name: 'Desk' })).toBeVisible()
  await nell.getByRole('button', { name: 'Sign out' }).click()
  await nell.getByLabel('E-mail address').fill('nell@example.test')
  await nell.getByLabel('Password').fill('another kite altogether')
  await nell.getByRole('button', { name: 'Sign in' }).click()
  await expect(nell.getByRole('heading', { name: 'Desk' })).toBeVisible()
})

test('the owner changes what somebody is, and lets them go at once', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'People' }).click()
  await page.getByLabel('What Nell Harrow is').selectOption('owner')
  await expect(page.getByRole('status').filter({ hasText: 'Nell Harrow is an owner now.' })).toBeVisible()
  await nell.goto('/workroom/people')
  await expect(nell.getByRole('heading', { name: 'People' })).toBeVisible()
  await page.getByRole('button', { name: 'Look after Nell Harrow' }).click()
  await page.getByRole('button', { name: 'Take out' }).click()
  await noSeriousFinding(page)
  await page.getByRole('dialog').getByRole('button', { name: 'Take out' }).click()
  // While it is asked, nothing behind the question is there for who looks by role.
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(row(page, 'Nell Harrow')).toHaveCount(0)
  await nell.goto('/workroom')
  await expect(nell.getByLabel('Password')).toBeVisible()
  await page.getByRole('link', { name: 'Desk' }).click()
  await page.getByRole('link', { name: 'History' }).click()
  await expect(page.getByText('Took Nell Harrow out of the workroom.')).toBeVisible()
  await expect(page.getByText('Took up an invitation as an editor.')).toBeVisible()
  await nell.context().close()
})

test('who was signed out meanwhile and opens another station signs in there and is where they wanted to be', async ({ browser }) => {
  const context = await browser.newContext()
  const staff = await context.newPage()
  await signIn(staff)
  await staff.evaluate(async () => {
    const { forgery } = await (await fetch('/api/session')).json()
    await fetch('/api/session', { method: 'DELETE', headers: { 'X-Jovitar-Forgery': forgery } })
  })
  await staff.getByRole('link', { name: /^Visitors/ }).click()
  await staff.getByLabel('E-mail address').fill('odile@example.test')
  await staff.getByLabel('Password').fill('wind from the south-west')
  await staff.getByRole('button', { name: 'Sign in' }).click()
  await expect(staff.getByRole('heading', { name: 'Comments' })).toBeVisible()
  await context.close()
})
