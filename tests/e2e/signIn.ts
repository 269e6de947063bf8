import { expect, type Page } from '@playwright/test'

/** Signs in as the owner that the main job's first test makes. */
export async function signIn(page: Page) {
  await page.goto('/workroom')
  await page.getByLabel('E-mail address').fill('odile@example.test')
  await page.getByLabel('Password').fill('wind from the south-west')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible()
}
