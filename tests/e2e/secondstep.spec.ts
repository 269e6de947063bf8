import { createHmac } from 'node:crypto'
import { expect, type Page, test } from '@playwright/test'
import jsQR from 'jsqr'
import { noSeriousFinding } from './axe'
import { signIn } from './signIn'

// A second step at signing in: read off the screen by a phone, asked for, and taken off again.
const password = 'wind from the south-west'

/** What a phone shows (RFC 6238): written here once more, from the standard. */
function codeOf(secret: string, ahead = 0) {
  const bits = [...secret].map((c) => 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(c).toString(2).padStart(5, '0')).join('')
  const key = Buffer.from(bits.match(/.{8}/g)?.map((b) => Number.parseInt(b, 2)) ?? [])
  const counter = Buffer.alloc(8)
  counter.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 30_000) + ahead))
  const hash = createHmac('sha1', key).update(counter).digest()
  const at = (hash.at(-1) ?? 0) & 15
  return String((hash.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, '0')
}

/** Reads a QR code off the screen, as a camera does. */
async function readOff(page: Page) {
  const { data, width, height } = await page.evaluate(async () => {
    const svg = document.querySelector('svg[aria-label^="QR"]')
    const picture = new Image()
    picture.src = `data:image/svg+xml,${encodeURIComponent(new XMLSerializer().serializeToString(svg as Node).replace('<svg', '<svg width="300" height="300"'))}`
    await picture.decode()
    const canvas = Object.assign(document.createElement('canvas'), { width: 300, height: 300 })
    const paper = canvas.getContext('2d') as CanvasRenderingContext2D
    paper.fillStyle = '#fff'
    paper.fillRect(0, 0, 300, 300)
    paper.drawImage(picture, 0, 0)
    const { data, width, height } = paper.getImageData(0, 0, 300, 300)
    return { data: Array.from(data), width, height }
  })
  return jsQR(Uint8ClampedArray.from(data), width, height)?.data
}

async function signOut(page: Page) {
  await page.getByRole('button', { name: 'Sign out' }).click()
  await page.waitForURL('**/workroom')
}

async function fillIn(page: Page, code?: string) {
  await page.getByLabel('E-mail address').fill('odile@example.test')
  await page.getByLabel('Password').fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
  if (code === undefined) return
  await expect(page.getByRole('alert')).toHaveText('Now the code that your phone shows.')
  await page.getByLabel('The code from your phone').fill(code)
  await page.getByRole('button', { name: 'Sign in' }).click()
}

test('a second step is set up with a phone, asked for at signing in, and taken off', async ({ page }) => {
  await signIn(page)
  await page.getByRole('link', { name: 'Account' }).click()
  const step = page.getByRole('region', { name: 'A second step' })
  await step.getByLabel('Your password').fill('not this one')
  await step.getByRole('button', { name: 'Set it up' }).click()
  await expect(step.getByText('This is not your present password.')).toBeVisible()
  await step.getByLabel('Your password').fill(password)
  await step.getByRole('button', { name: 'Set it up' }).click()
  const secret = ((await step.locator('.select-all').textContent()) ?? '').replaceAll(' ', '')
  expect(await readOff(page)).toMatch(new RegExp(`^otpauth://totp/([^:]+):odile%40example.test\\?secret=${secret}&issuer=\\1$`))
  await noSeriousFinding(page)
  await step.getByLabel('The six digits').fill('12345')
  await step.getByRole('button', { name: 'Put it on' }).click()
  await expect(step.getByText(/^This code is not right/)).toBeVisible()
  await step.getByLabel('The six digits').fill(codeOf(secret))
  await step.getByRole('button', { name: 'Put it on' }).click()
  await expect(step.getByRole('listitem')).toHaveCount(8)
  const codes = await step.getByRole('listitem').allTextContents()
  expect(new Set(codes).size).toBe(8)
  await step.getByRole('button', { name: 'I have them' }).click()
  await expect(step.getByText('8 codes on paper are left.')).toBeVisible()

  await signOut(page)
  await fillIn(page, '000 000')
  await expect(page.getByRole('alert')).toHaveText(/^This code is not right/)
  await page.getByLabel('The code from your phone').fill(codes[3]?.toUpperCase().replaceAll('-', ' ') ?? '')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()

  await page.getByRole('link', { name: 'Account' }).click()
  await expect(step.getByText('7 codes on paper are left.')).toBeVisible()
  await step.getByLabel('Your password').fill(password)
  await step.getByLabel('A code from your phone').fill(codeOf(secret, 1))
  await step.getByRole('button', { name: 'Take it off' }).click()
  await expect(page.getByText('The second step is off.')).toBeVisible()
  await signOut(page)
  await fillIn(page)
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
})
