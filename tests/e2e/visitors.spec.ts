import { type Browser, expect, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { signIn } from './signIn'

// What visitors do on the page of the main job: twelve photographs, six of them tagged “Opening day”, and the category “Spring”.
const frames = (page: Page) => page.locator('a.frame:not([hidden])')

async function phone(browser: Browser) {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, deviceScaleFactor: 2 })
  const page = await context.newPage()
  await page.goto('/regatta')
  await expect(frames(page)).toHaveCount(12)
  return page
}

/** A finger that goes from one place to another. */
async function swipe(page: Page, from: [number, number], to: [number, number]) {
  const touch = await page.context().newCDPSession(page)
  const at = ([x, y]: [number, number]) => [{ x, y }]
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(from) })
  for (let i = 1; i <= 4; i++) {
    const between: [number, number] = [from[0] + ((to[0] - from[0]) * i) / 4, from[1] + ((to[1] - from[1]) * i) / 4]
    await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at(between) })
  }
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
}

/** Boxes of the photos that are shown. */
const boxes = (page: Page) =>
  frames(page).evaluateAll((all) =>
    all.map((f) => {
      const { left, top, right, bottom } = f.getBoundingClientRect()
      return { left, top, right, bottom }
    }),
  )

/** No two stand on one another, and none leaves its page. */
async function wellPlaced(page: Page) {
  const all = await boxes(page)
  const width = await page.evaluate(() => document.documentElement.clientWidth)
  for (const [i, a] of all.entries()) {
    expect(a.left).toBeGreaterThanOrEqual(0)
    expect(a.right).toBeLessThanOrEqual(width + 0.5)
    for (const b of all.slice(i + 1)) {
      const over = Math.min(a.right, b.right) - Math.max(a.left, b.left) > 0.5 && Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 0.5
      expect(over, `${JSON.stringify(a)} stands on ${JSON.stringify(b)}`).toBe(false)
    }
  }
}

test('on a phone all fits its width, and what is pressed is large enough for a finger', async ({ browser }) => {
  const page = await phone(browser)
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await wellPlaced(page)
  await noSeriousFinding(page)
  // WCAG 2.2, 2.5.8: at least 24 by 24 CSS pixels.
  for (const link of await page.locator('[data-filter] a:visible').all()) {
    const box = await link.boundingBox()
    expect(Math.min(box?.width ?? 0, box?.height ?? 0)).toBeGreaterThanOrEqual(24)
  }
  await page.getByRole('link', { name: /^Spring/ }).tap()
  await expect(page).toHaveURL(/show=spring/)
  await expect(page.locator('[data-showing]')).toHaveText('12 photographs')
  await page.getByRole('link', { name: /^opening/i }).tap()
  await expect(frames(page)).toHaveCount(6)
  await wellPlaced(page)
  await page.context().close()
})

test('on a phone a finger opens a photo, leafs through, and “back” leads to where one was', async ({ browser }) => {
  const page = await phone(browser)
  await page.getByRole('link', { name: /^opening/i }).tap()
  await expect(frames(page)).toHaveCount(6)
  await frames(page).nth(3).scrollIntoViewIfNeeded()
  const stood = await page.evaluate(() => window.scrollY)
  await frames(page).nth(3).tap()
  const viewer = page.getByRole('dialog')
  await expect(viewer.getByText('4 of 6')).toBeVisible()
  await noSeriousFinding(page)
  const picture = await viewer.locator('.viewer-stage img').boundingBox()
  expect(picture?.width ?? 999).toBeLessThanOrEqual(390)
  await swipe(page, [330, 400], [60, 410])
  await expect(viewer.getByText('5 of 6')).toBeVisible()
  await swipe(page, [60, 400], [330, 390])
  await expect(viewer.getByText('4 of 6')).toBeVisible()
  // A finger that goes down, or hardly moves, does not leaf.
  await swipe(page, [200, 250], [230, 600])
  await swipe(page, [200, 400], [225, 400])
  await expect(viewer.getByText('4 of 6')).toBeVisible()
  await page.goBack()
  await expect(viewer).toHaveCount(0)
  await expect(frames(page)).toHaveCount(6)
  expect(Math.abs((await page.evaluate(() => window.scrollY)) - stood)).toBeLessThan(200)
  await page.context().close()
})

/** Where the open photo is drawn, and the stage that it stands on. */
const drawn = (page: Page) =>
  page.locator('.viewer-stage').evaluate((stage) => {
    const of = (e: Element | null) => {
      const { left, top, right, bottom, width } = e?.getBoundingClientRect() ?? new DOMRect()
      return { left, top, right, bottom, width }
    }
    return { photo: of(stage.querySelector('img')), stage: of(stage) }
  })

test('a photo is made larger about where one points, moved as far as its edges, and whole again', async ({ page }) => {
  await page.goto('/regatta')
  await frames(page).nth(2).click()
  const viewer = page.getByRole('dialog')
  await expect(viewer.getByText('3 of 12')).toBeVisible()
  const whole = await drawn(page)
  const point = { x: whole.photo.left + whole.photo.width * 0.6, y: whole.photo.top + (whole.photo.bottom - whole.photo.top) * 0.75 }
  await page.mouse.move(point.x, point.y)
  await page.mouse.wheel(0, -300)
  await expect(viewer.getByRole('button', { name: 'Whole' })).toBeVisible()
  const larger = await drawn(page)
  expect(larger.photo.width).toBeGreaterThan(whole.photo.width * 1.3)
  // It filled the height of the stage: there, what was under the pointer still is.
  expect(Math.abs((point.y - larger.photo.top) / (larger.photo.bottom - larger.photo.top) - 0.75)).toBeLessThan(0.01)

  // A double press goes all the way: to the largest rendition, which is fetched for it.
  await page.keyboard.press('Escape')
  await expect(viewer.getByRole('button', { name: 'Larger' })).toBeVisible()
  expect((await drawn(page)).photo.width).toBeCloseTo(whole.photo.width, 0)
  await page.mouse.dblclick(point.x, point.y)
  const largest = await viewer.locator('.viewer-stage img').evaluate((i) => Math.max(...(i as HTMLImageElement).srcset.split(',').map((each) => Number(/(\d+)w/.exec(each)?.[1]))))
  await expect.poll(async () => Math.abs((await drawn(page)).photo.width - Math.max(largest, whole.photo.width * 2))).toBeLessThan(3)
  await expect.poll(() => viewer.locator('.viewer-stage img').evaluate((i) => (i as HTMLImageElement).currentSrc)).toMatch(new RegExp(`-${largest}\\.webp$`))
  await noSeriousFinding(page)

  // Dragged far beyond, its edge stops at the stage's; and no drag closes the viewer or leafs.
  await page.mouse.move(point.x, point.y)
  await page.mouse.down()
  await page.mouse.move(1270, point.y + 10, { steps: 8 })
  await page.mouse.up()
  const dragged = await drawn(page)
  expect(dragged.photo.left).toBeCloseTo(dragged.stage.left, 0)
  await expect(viewer.getByText('3 of 12')).toBeVisible()
  // The next one begins whole.
  await page.keyboard.press('ArrowRight')
  await expect(viewer.getByText('4 of 12')).toBeVisible()
  await expect(viewer.getByRole('button', { name: 'Larger' })).toBeVisible()
  await page.keyboard.press('+')
  await expect(viewer.getByRole('button', { name: 'Whole' })).toBeVisible()
  await page.keyboard.press('-')
  await expect(viewer.getByRole('button', { name: 'Larger' })).toBeVisible()
  await page.keyboard.press('End')
  await expect(viewer.getByText('12 of 12')).toBeVisible()
  await page.keyboard.press('Home')
  await expect(viewer.getByText('1 of 12')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(viewer).toHaveCount(0)
})

test('two fingers make a photo larger on a phone, one moves it then, and two taps bring it back', async ({ browser }) => {
  const page = await phone(browser)
  await frames(page).first().tap()
  const viewer = page.getByRole('dialog')
  await expect(viewer.getByText('1 of 12')).toBeVisible()
  await noSeriousFinding(page)
  const before = await drawn(page)
  const middle = { x: 195, y: (before.photo.top + before.photo.bottom) / 2 }
  const touch = await page.context().newCDPSession(page)
  const fingers = (apart: number) => [{ x: middle.x - apart, y: middle.y, id: 0 }, { x: middle.x + apart, y: middle.y, id: 1 }]
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(30) })
  for (const apart of [40, 55, 70, 90]) await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(apart) })
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
  await expect.poll(async () => (await drawn(page)).photo.width / before.photo.width).toBeGreaterThan(2.5)
  // The window itself was not made larger.
  expect(await page.evaluate(() => visualViewport?.scale)).toBe(1)
  await swipe(page, [300, middle.y], [60, middle.y])
  await expect(viewer.getByText('1 of 12')).toBeVisible()
  expect((await drawn(page)).photo.left).toBeLessThan(before.photo.left - 200)
  // Pinched whole again, the finger that goes last does not leaf.
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(150) })
  for (const apart of [110, 80, 40, 15]) await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(apart) })
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: fingers(15).slice(0, 1) })
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
  await expect.poll(async () => Math.round((await drawn(page)).photo.width)).toBe(Math.round(before.photo.width))
  await expect(viewer.getByText('1 of 12')).toBeVisible()
  // Two taps make it as large as it gets, and two more whole again; between them more time than one gesture takes.
  for (const to of ['larger', 'whole']) {
    await page.waitForTimeout(400)
    await page.touchscreen.tap(200, middle.y)
    await page.touchscreen.tap(200, middle.y)
    if (to === 'larger') await expect.poll(async () => (await drawn(page)).photo.width / before.photo.width).toBeGreaterThan(1.9)
  }
  await expect.poll(async () => Math.round((await drawn(page)).photo.width)).toBe(Math.round(before.photo.width))
  await swipe(page, [330, middle.y], [60, middle.y])
  await expect(viewer.getByText('2 of 12')).toBeVisible()
  await page.context().close()
})

test('photos follow each other by themselves until somebody takes over, and a link to one is copied', async ({ browser }) => {
  const context = await browser.newContext({ permissions: ['clipboard-read', 'clipboard-write'] })
  const page = await context.newPage()
  await page.clock.install()
  await page.goto('/regatta')
  await frames(page).nth(9).click()
  const viewer = page.getByRole('dialog')
  await expect(viewer.getByText('10 of 12')).toBeVisible()
  await viewer.getByRole('button', { name: 'Copy link' }).click()
  await expect(viewer.getByRole('button', { name: 'Copied' })).toBeVisible()
  expect(await page.evaluate(() => navigator.clipboard.readText())).toBe(page.url())
  await viewer.getByRole('button', { name: 'Play' }).click()
  await page.clock.runFor(4100)
  await expect(viewer.getByText('11 of 12')).toBeVisible()
  await page.keyboard.press('ArrowLeft')
  await expect(viewer.getByText('10 of 12')).toBeVisible()
  await page.clock.runFor(20_000)
  await expect(viewer.getByText('10 of 12')).toBeVisible()
  await viewer.getByRole('button', { name: 'Play' }).click()
  for (let n = 0; n < 3; n++) await page.clock.runFor(4100)
  // At the last it comes to rest.
  await expect(viewer.getByText('12 of 12')).toBeVisible()
  await expect(viewer.getByRole('button', { name: 'Play' })).toBeDisabled()
  await context.close()
})

test('at the first and the last photo the viewer goes no further, and the keys stay inside it', async ({ page }) => {
  await page.goto('/regatta')
  await frames(page).first().click()
  const viewer = page.getByRole('dialog')
  await expect(viewer.getByText('1 of 12')).toBeVisible()
  await expect(viewer.getByRole('button', { name: 'Previous photo' })).toBeDisabled()
  await page.keyboard.press('ArrowLeft')
  await expect(viewer.getByText('1 of 12')).toBeVisible()
  for (let i = 0; i < 6; i++) {
    await page.keyboard.press('Tab')
    expect(await page.evaluate(() => document.activeElement === document.body || !!document.activeElement?.closest('dialog'))).toBe(true)
  }
  for (let i = 0; i < 11; i++) await page.keyboard.press('ArrowRight')
  await expect(viewer.getByText('12 of 12')).toBeVisible()
  await expect(viewer.getByRole('button', { name: 'Next photo' })).toBeDisabled()
  await page.keyboard.press('ArrowRight')
  await expect(viewer.getByText('12 of 12')).toBeVisible()
  await viewer.getByRole('button', { name: 'Close' }).click()
  await expect(viewer).toHaveCount(0)
  await expect(frames(page).last()).toBeFocused()
  // Forward again: the photo that was looked at last stands there once more.
  await page.goForward()
  await expect(viewer.getByText('12 of 12')).toBeVisible()
})

test('when the window changes the photos are placed anew for it, narrowed as they were', async ({ page }) => {
  await page.goto('/regatta?show=opening-day')
  for (const width of [1280, 820, 390, 1600]) {
    await page.setViewportSize({ width, height: 900 })
    await expect
      .poll(async () => Math.max(...(await boxes(page)).map((b) => b.right)) <= width && page.locator('.frames').evaluate((f) => f.getAnimations().length === 0))
      .toBe(true)
    await page.waitForTimeout(400)
    await expect(frames(page)).toHaveCount(6)
    await wellPlaced(page)
  }
})

test('a page that was opened before photos came or went shows the right ones when it is narrowed', async ({ page, browser }) => {
  await page.goto('/regatta')
  const of = () => frames(page).evaluateAll((all) => all.map((f) => (f as HTMLElement).dataset.id))
  await page.getByRole('link', { name: /^opening/i }).click()
  await expect(frames(page)).toHaveCount(6)
  const tagged = await of()
  await page.getByRole('link', { name: /^All/ }).click()
  await expect(frames(page)).toHaveCount(12)
  const first = (await of())[0] ?? ''
  // Meanwhile somebody of the workroom leaves the first photo out.
  const staff = await (await browser.newContext()).newPage()
  await signIn(staff)
  await staff.goto(`/workroom/photos?photo=${first}`)
  await staff.getByRole('button', { name: 'Leave out everywhere' }).click()
  await expect(staff.getByRole('button', { name: 'Use it again' })).toBeVisible()
  await page.getByRole('link', { name: /^opening/i }).click()
  await expect(page).toHaveURL(/show=opening-day/)
  await expect.poll(of).toEqual(tagged.filter((id) => id !== first))
  await staff.getByRole('button', { name: 'Use it again' }).click()
  await expect(staff.getByRole('button', { name: 'Leave out everywhere' })).toBeVisible()
  await page.getByRole('link', { name: /^All/ }).click()
  await expect(frames(page)).toHaveCount(12)
  await staff.context().close()
})

test('where the line is down, narrowing says so and the page stays as it was', async ({ page }) => {
  await page.goto('/regatta')
  let away = true
  await page.route('**/site/view/**', (route) => (away ? route.abort('connectionrefused') : route.continue()))
  await page.getByRole('link', { name: /^opening/i }).click()
  await expect(page.getByRole('status')).toHaveText('The photos could not be narrowed just now. Try again.')
  await expect(frames(page)).toHaveCount(12)
  await expect(page).toHaveURL(/\/regatta$/)
  away = false
  await page.getByRole('link', { name: /^opening/i }).click()
  await expect(frames(page)).toHaveCount(6)
})

test('a photo has an address of its own with its words, its neighbours, and the way back', async ({ page, browser }) => {
  await page.goto('/regatta?show=opening-day')
  const link = (await frames(page).nth(2).getAttribute('href')) ?? ''
  const plain = await (await browser.newContext({ javaScriptEnabled: false })).newPage()
  await plain.goto(link)
  await expect(plain.getByRole('heading', { level: 1 })).not.toBeEmpty()
  const picture = plain.locator('main img').first()
  expect(Number(await picture.getAttribute('width'))).toBeGreaterThan(0)
  await noSeriousFinding(page)
  await plain.getByRole('link', { name: 'Next' }).click()
  await plain.getByRole('link', { name: 'Previous' }).click()
  await expect(plain).toHaveURL(new RegExp(`${link.replace('?', '\\?')}$`))
  expect((await plain.goto('/regatta/photo/00000000-0000-7000-8000-000000000000'))?.status()).toBe(404)
  await plain.context().close()
})
