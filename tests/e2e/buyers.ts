import { expect, type Page } from '@playwright/test'

/** Leads a visitor to what can be bought of the first photo of the album. */
export async function toBuy(visitor: Page) {
  await visitor.goto('/regatta')
  await visitor.locator('a.frame').first().click()
  await visitor.getByRole('link', { name: 'Buy', exact: true }).click()
  await expect(visitor.getByRole('radio', { name: /10 × 15 cm print/ })).toBeVisible()
}

/** The same without scripts. */
export async function toBuyWithout(visitor: Page) {
  await visitor.goto('/regatta')
  await visitor.locator('a.frame').first().click()
  await visitor.getByRole('link', { name: 'Buy this photograph' }).click()
}

/** Puts a print in the basket. */
export async function put(visitor: Page) {
  await visitor.getByRole('radio', { name: /10 × 15 cm print/ }).check()
  await visitor.getByRole('button', { name: 'Put in the basket' }).click()
}

/** Goes on to order, and says who one is and where. */
export async function sayWho(visitor: Page, name: string, street: string, town = 'Hollin Quay') {
  await visitor.getByRole('link', { name: 'Go on to order' }).click()
  await visitor.getByLabel('Your name').fill(name)
  await visitor.getByLabel('E-mail address').fill('somebody@example.test')
  await visitor.getByLabel('Street and number').fill(street)
  await visitor.getByLabel('Postcode').fill('X91')
  await visitor.getByLabel('Town').fill(town)
}
