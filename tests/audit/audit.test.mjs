// Pages as lighthouse sees them: open to everybody, sound, and able to be found. Every page that somebody made, and one of
// each kind that makes itself; all of those, and how fast pages are, are for ./bench audit on a quiet machine.
import assert from 'node:assert/strict'
import { after, before, test } from 'node:test'
import { navigation, snapshot } from 'lighthouse'
import { open, short } from './browser.mjs'
import { pages, path, photoOn, root } from './pages.mjs'

const flags = { onlyCategories: ['accessibility', 'best-practices', 'seo'], disableFullPageScreenshot: true, logLevel: 'error' }
const found = await pages()
const photo = await photoOn(`${root}/festival-2026`)
const kinds = [found.find((address) => address.includes('/album/')), found.find((address) => address.includes('/category/')), photo]

let browser
before(async () => {
  browser = await open()
})
after(() => browser.close())

const check = (address, how, gather) =>
  test(`${path(address)} ${how} is open to everybody, sound, and can be found`, async () => {
    const page = await browser.newPage()
    try {
      const { lhr } = await gather(page)
      assert.equal(lhr.runtimeError, undefined)
      assert.deepEqual(short(lhr), [])
    } finally {
      await page.close()
    }
  })

for (const address of [...found.filter((a) => !/\/(album|category)\//.test(a)), ...kinds]) {
  check(address, 'as it stands', async (page) => {
    await page.goto(address, { waitUntil: 'load' })
    return snapshot(page, { flags })
  })
}
for (const address of [`${root}/festival-2026`, photo]) {
  check(address, 'as it comes to a phone', (page) => navigation(page, address, { flags }))
}
