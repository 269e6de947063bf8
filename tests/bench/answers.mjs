// What visitors wait for on a page of many photos when they press buttons, search and choose an order: node answers.mjs URL PAGE
// Prints the 95th percentile of all such answers for the first screen, ms, over connections that stand.
const [url, page] = process.argv.slice(2)
const view = `${url}/site/view${page}?width=1185&window=1280&top=0&bottom=2400`
const ask = async (query) => {
  const began = performance.now()
  const answer = await fetch(`${view}&${query}`)
  const said = await answer.json()
  return { ms: performance.now() - began, said }
}
const { said: first } = await ask('')
const keys = first.buttons.map((b) => b.key)
const words = ['kite', 'the', 'strand', 'fog', 'first day', 'nobody at all']
const orders = ['', 'newest', 'title']
const questions = []
for (const key of [...keys, ''])
  for (const word of ['', ...words])
    for (const order of orders) questions.push(new URLSearchParams({ show: key, find: word, order }).toString())
for (const question of questions.slice(0, 20)) await ask(question)
const took = []
for (const question of questions) took.push((await ask(question)).ms)
took.sort((a, b) => a - b)
console.log(took[Math.floor(took.length * 0.95)].toFixed(1), questions.length, keys.length)
