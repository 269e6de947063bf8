// Every page of the demo as html-validate reads it, its site map by the schema of sitemaps.org with xmllint, and its feeds
// with a reader that is not ours.
import assert from 'node:assert/strict'
import { execFileSync } from 'node:child_process'
import { test } from 'node:test'
import { parseAtomFeed } from 'feedsmith'
import { HtmlValidate, StaticConfigLoader } from 'html-validate'
import { maps, pages, path, photoOn, root, text } from './pages.mjs'

const validator = new HtmlValidate(
  new StaticConfigLoader({
    extends: ['html-validate:standard', 'html-validate:a11y', 'html-validate:document'],
    // All that a page fetches comes from the site itself.
    rules: { 'require-sri': 'off' },
  }),
)
const found = await pages()

// A link of type "expect" blocks rendering by this very attribute (HTML Living Standard, link type "expect"); this version of the reader does not know it yet.
const unknownYet = (message) => message.ruleId === 'attribute-misuse' && message.message.startsWith('"blocking" attribute cannot be used on <link>')

test('the site map leads to many pages', () => assert.ok(found.length > 20, found.join(' ')))

const embeds = ['/embed/album/stunt-final', '/embed/festival-2026?layout=slides', '/embed/category/festival', '/embed/nowhere'].map((embed) => root + embed)

for (const address of [...found, await photoOn(`${root}/festival-2026`), `${root}/nowhere`, ...embeds]) {
  test(`${path(address)} is HTML as the standard has it`, async () => {
    const report = await validator.validateString(await text(address))
    assert.deepEqual(
      report.results.flatMap((result) => result.messages.filter((message) => !unknownYet(message)).map((message) => `${message.ruleId}: ${message.message} ${message.selector ?? ''}`)),
      [],
    )
  })
}

test('the site map is as its schema has it', async () => {
  const parts = await maps()
  assert.ok(parts.length > 0)
  for (const { xml } of parts) {
    assert.match(xml, /<image:loc>/)
    execFileSync('xmllint', ['--noout', '--nonet', '--schema', new URL('sitemap.xsd', import.meta.url).pathname, '-'], {
      input: xml,
      stdio: ['pipe', 'pipe', 'pipe'],
    })
  }
})

test('feeds are read by a reader that is not ours, and lead to what is there', async () => {
  for (const feed of ['/feed.xml', '/album/night-flight/feed.xml', '/category/festival/feed.xml']) {
    const read = parseAtomFeed(await text(`${root}${feed}`))
    assert.ok(read.entries.length > 0, feed)
    assert.ok(read.links.some((link) => link.rel === 'self' && path(link.href) === feed))
    for (const entry of read.entries.slice(0, 3)) {
      assert.ok(entry.id && entry.updated && entry.title)
      assert.equal((await fetch(entry.links[0].href, { method: 'HEAD' })).status, 200)
    }
    if (feed !== '/feed.xml') {
      const pictures = read.entries.flatMap((entry) => entry.media?.contents ?? entry.media?.group?.contents ?? [])
      assert.ok(pictures.length >= read.entries.length, feed)
      assert.equal((await fetch(pictures[0].url, { method: 'HEAD' })).headers.get('content-type'), pictures[0].type)
    }
  }
})
