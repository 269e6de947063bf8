import { expect, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { signIn } from './signIn'

// A passkey is made, signs in, and is taken off. The device is Chromium's virtual authenticator (WebAuthn level 3 §11), which is not
// ours; passkeys need a site that is reached by its name.
test.use({ baseURL: process.env.JOVITAR_URL?.replace('127.0.0.1', 'localhost') ?? '' })

test('a passkey is made with the password, lets its owner in once for each question, and opens nothing once it is off', async ({
  page,
  context,
}) => {
  const device = await context.newCDPSession(page)
  await device.send('WebAuthn.enable')
  await device.send('WebAuthn.addVirtualAuthenticator', {
    options: {
      protocol: 'ctap2',
      transport: 'internal',
      hasResidentKey: true,
      hasUserVerification: true,
      isUserVerified: true,
      automaticPresenceSimulation: true,
    },
  })
  await signIn(page)
  await page.getByRole('link', { name: 'Account' }).click()
  const passkeys = page.getByRole('region', { name: 'Passkeys' })
  await passkeys.getByLabel('Your password').fill('not this one')
  await passkeys.getByRole('button', { name: 'Add one on this device' }).click()
  await expect(passkeys.getByText('This is not your present password.')).toBeVisible()
  await passkeys.getByLabel('Your password').fill('wind from the south-west')
  await passkeys.getByRole('button', { name: 'Add one on this device' }).click()
  await expect(passkeys.getByRole('listitem')).toHaveText(/Chrome or Chromium on Linux.*made/)
  await noSeriousFinding(page)
  // The device knows that it has one for this account.
  await passkeys.getByLabel('Your password').fill('wind from the south-west')
  await passkeys.getByRole('button', { name: 'Add one on this device' }).click()
  await expect(passkeys.getByText('No passkey was made.')).toBeVisible()

  const signOut = async () => {
    await page.getByRole('button', { name: 'Sign out' }).click()
    await page.waitForURL('**/workroom')
  }
  await signOut()
  const shown = page.waitForRequest((r) => r.url().endsWith('/api/session/passkey') && r.method() === 'POST')
  await page.getByRole('button', { name: 'Use a passkey' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
  const heard = (await shown).postData() ?? ''
  await signOut()
  await expect(page.getByLabel('E-mail address')).toBeVisible()
  // Whoever heard the answer gives it again in vain; so does who changes it.
  const again = (body: string) =>
    page.evaluate(async (text) => {
      const session = (await (await fetch('/api/session')).json()) as { forgery: string }
      const headers = { 'X-Jovitar-Forgery': session.forgery, 'Content-Type': 'application/json' }
      return (await fetch('/api/session/passkey', { method: 'POST', headers, body: text })).status
    }, body)
  expect(await again(heard)).toBe(400)
  const { state, credential } = JSON.parse(heard) as { state: string; credential: string }
  const fresh = await page.evaluate(async () => {
    const session = (await (await fetch('/api/session')).json()) as { forgery: string }
    const begun = await fetch('/api/session/passkey/begin', { method: 'POST', headers: { 'X-Jovitar-Forgery': session.forgery } })
    return (await begun.json()) as { state: string }
  })
  expect(await again(JSON.stringify({ state: fresh.state, credential }))).toBe(400)
  expect(await again(JSON.stringify({ state: state.slice(0, -2), credential }))).toBe(400)
  expect(await again(JSON.stringify({ state, credential: '{"id":1}' }))).toBe(400)

  await page.getByRole('button', { name: 'Use a passkey' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
  await page.getByRole('link', { name: 'Account' }).click()
  await expect(passkeys.getByRole('listitem')).toHaveText(/used/)
  await passkeys.getByRole('button', { name: 'Take it off' }).click()
  await expect(passkeys.getByRole('listitem')).toHaveCount(0)
  await signOut()
  await page.getByRole('button', { name: 'Use a passkey' }).click()
  await expect(page.getByRole('alert')).toHaveText('This passkey does not open this site, or was taken off. Sign in another way.')
})
