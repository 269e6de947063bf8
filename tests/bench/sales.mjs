// Many buy at once: node sales.mjs SITE HOW_MANY. Each puts a print in a basket, orders it, pays at the simulated service and comes back.
// Prints, as JSON: how long all took, seconds, and how long a basket of 500 lines takes to be shown, milliseconds.
const [site, howMany] = [process.argv[2], Number(process.argv[3])]
const AtOnce = 12
const Lines = 500

/** A browser of its own. What it does comes from everywhere, for as much from one place would be too much. */
let asked = 0
function browser() {
  let cookie = ''
  return async (path, form) => {
    const answer = await fetch(new URL(path, site), {
      method: form ? 'POST' : 'GET',
      redirect: 'manual',
      headers: { 'X-Forwarded-For': `10.${(asked >> 16) & 255}.${(asked >> 8) & 255}.${asked++ & 255}`, ...(cookie && { cookie }), 'Sec-Fetch-Site': 'same-origin' },
      ...(form && { body: new URLSearchParams(form) }),
    })
    const set = answer.headers.getSetCookie().find((c) => c.startsWith('jovitar-basket='))
    if (set) cookie = set.split(';')[0]
    const text = await answer.text()
    if (answer.status >= 400) throw new Error(`${path} ${answer.status} ${text.slice(0, 200)}`)
    return { to: answer.headers.get('location'), text }
  }
}

const look = browser()
const page = (await look('/night-flight')).text
const album = page.match(/data-sold="([^"]+)"/)[1]
const photos = [...page.matchAll(/data-id="([^"]+)"/g)].map((m) => m[1])
const offered = new Map()
for (const photo of photos)
  offered.set(photo, [...(await look(`/buy/${album}/${photo}`)).text.matchAll(/name="option" value="([^"]+)"/g)].map((m) => m[1]))

async function buy(n) {
  const ask = browser()
  const photo = photos[n % photos.length]
  await ask('/basket', { album, photo, option: offered.get(photo)[0], count: '1', at: '' })
  const form = (await ask('/basket/check-out')).text
  const hidden = (name) => form.match(new RegExp(`name="${name}" value="([^"]+)"`))[1]
  const way = form.match(/name="way" value="([^"]+)"/)[1]
  const paid = await ask('/basket/check-out', {
    order: hidden('order'), seen: hidden('seen'), act: 'order', pay: 'now', way, name: `Buyer ${n}`, email: `buyer${n}@example.test`,
    street: '1 Row', further: '', postcode: 'X91', town: 'Hollin Quay', region: '', country: 'IE', at: 'IE', message: '',
  })
  const back = await ask(paid.to, { act: 'pay' })
  await ask(back.to)
}

const begun = performance.now()
let next = 0
await Promise.all(Array.from({ length: AtOnce }, async () => { while (next < howMany) await buy(next++) }))
const seconds = (performance.now() - begun) / 1000

const full = browser()
let lines = 0
for (const [photo, options] of offered)
  for (const option of options)
    if (lines < Lines) {
      lines++
      await full('/basket', { album, photo, option, count: '2', at: '' })
    }
const times = []
for (let i = 0; i < 11; i++) {
  const start = performance.now()
  await full('/basket')
  times.push(performance.now() - start)
}
console.log(JSON.stringify({ seconds, lines, basket: times.sort((a, b) => a - b)[5] }))
