// What there is on the site that is looked at (JOVITAR_URL), as a stranger finds it: from its site map on.

/** Where the site is. */
export const root = process.env.JOVITAR_URL

/** @param {string} address */
export const text = async (address) => {
  const answer = await fetch(address)
  if (!answer.ok && answer.status !== 404) throw new Error(`${address}: ${answer.status}`)
  return answer.text()
}

/** @param {string} address */
export const path = (address) => new URL(address).pathname

/** @param {string} xml */
const places = (xml) => [...xml.matchAll(/<loc>([^<]+)<\/loc>/g)].map((found) => found[1])

/** The parts of the site map, by their addresses. */
export const maps = async () => Promise.all(places(await text(`${root}/sitemap.xml`)).map(async (address) => ({ address, xml: await text(address) })))

/** Every page that the site map names. */
export const pages = async () => (await maps()).flatMap(({ xml }) => places(xml.replace(/<image:image>.*?<\/image:image>/g, '')))

/** A page of one photo, of those that a page leads to. */
export const photoOn = async (page) => new URL((await text(page)).match(/href="([^"]+\/photo\/[^"]+)"/)[1].replaceAll('&amp;', '&'), page).href
