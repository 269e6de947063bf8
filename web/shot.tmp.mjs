import { chromium } from 'playwright-core'
const base = process.env.BASE ?? 'http://127.0.0.1:5080'
const out = '/tmp/look'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu','--disable-background-networking'] })
const ctx = await b.newContext({ viewport: { width: 1280, height: 800 } })
const p = await ctx.newPage()
p.on('console', m => m.type()==='error' && console.log('console', m.text()))
p.on('pageerror', e => console.log('pageerror', e.message))
const shot = async (n, page=p) => { await page.waitForTimeout(500); await page.screenshot({ path: `${out}/${n}.png` }) }
await p.goto(base + '/workroom')
await p.getByLabel('E-mail address').fill('odile@marrambay.example')
await p.getByLabel('Password').fill('wind-from-the-south-west')
await p.getByRole('button', { name: 'Sign in' }).click()
await p.getByRole('heading', { name: 'Desk' }).waitFor()
await import(process.argv[2]).then(m => m.default({ p, b, ctx, base, shot }))
await b.close()
