import { type Browser, expect, type Page } from '@playwright/test'

/**
 * Asks that a page weighs on a phone, a tablet and a desktop what it is said to weigh, within 15 %. The reference is what Chromium
 * fetches for it on such a device, byte by byte.
 * @param slides How many photos its slides have, if any.
 */
export async function weighsAsSaid(browser: Browser, page: Page, address: string, slides = 0) {
  const { pages } = await (await page.request.get('/api/pages')).json()
  const { id } = pages.find((p: { address: string }) => p.address === address)
  const { weights } = await (await page.request.get(`/api/pages/${id}/notes`)).json()
  for (const [device, width, height, density] of [['phone', 390, 844, 3], ['tablet', 820, 1180, 2], ['desktop', 1280, 800, 1]] as const) {
    const context = await browser.newContext({ viewport: { width, height }, deviceScaleFactor: density, isMobile: density > 1, hasTouch: density > 1 })
    const reader = await context.newPage()
    const sizes = new Map<string, number>()
    const told: Promise<void>[] = []
    reader.on('requestfinished', (request) => {
      told.push(request.sizes().then((s) => void sizes.set(new URL(request.url()).pathname, s.responseBodySize)))
    })
    await reader.goto(`/${address}`, { waitUntil: 'networkidle' })
    const seenFirst = await reader.evaluate(() => [...document.images].filter((image) => {
      const box = image.getBoundingClientRect()
      const clip = image.closest('.strip, .slides')?.getBoundingClientRect() ?? { left: 0, right: innerWidth }
      return box.width > 0 && box.top < innerHeight && box.bottom > 0 && box.left < clip.right && box.right > clip.left && getComputedStyle(image).visibility === 'visible'
    }).map((image) => new URL(image.currentSrc).pathname))
    for (let y = 0; y < (await reader.evaluate(() => document.documentElement.scrollHeight)); y += height / 2) {
      await reader.evaluate((to) => scrollTo(0, to), y)
      await reader.waitForTimeout(120)
    }
    const on = reader.getByRole('button', { name: 'Next photo' })
    // Slides that begin again have all been there after a round.
    for (let i = 1; i < slides && (await on.count()) > 0 && (await on.isEnabled()); i++) await on.click()
    await reader.waitForLoadState('networkidle')
    await Promise.all(told)
    const isPicture = (path: string) => path.startsWith('/i/')
    // The viewer is fetched when all is done; nobody waits for it.
    const others = [...sizes].filter(([path]) => !isPicture(path) && !/viewerDialog|client-|preload-helper|mark|seen/.test(path)).reduce((sum, [, size]) => sum + size, 0)
    const first = [...new Set(seenFirst)].reduce((sum, path) => sum + (sizes.get(path) ?? 0), others)
    const all = [...sizes].filter(([path]) => isPicture(path)).reduce((sum, [, size]) => sum + size, others)
    const said = weights.find((w: { device: string }) => w.device === device)
    expect(said.first / first, `${address} on a ${device}, first screen: ${said.first} of ${first}`).toBeGreaterThan(0.85)
    expect(said.first / first, `${address} on a ${device}, first screen: ${said.first} of ${first}`).toBeLessThan(1.15)
    expect(said.all / all, `${address} on a ${device}: ${said.all} of ${all}`).toBeGreaterThan(0.85)
    expect(said.all / all, `${address} on a ${device}: ${said.all} of ${all}`).toBeLessThan(1.15)
    await context.close()
  }
}
