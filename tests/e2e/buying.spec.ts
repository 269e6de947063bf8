import { execFileSync } from 'node:child_process'
import { expect, type Locator, type Page, test } from '@playwright/test'
import { noSeriousFinding } from './axe'
import { oneMaker } from './making'

// The shop opens; a visitor buys on a phone, with keys alone, and without scripts; what they ordered walks on in the workroom.
test.describe.configure({ mode: 'serial' })

let page: Page
oneMaker((next) => {
  page = next
})

const atHome = () => page.getByRole('textbox', { name: 'Postage within the country', exact: true })
const saved = () => expect(page.getByText('Saved; the next order goes by it.')).toBeVisible()

/** Leads a visitor to what can be bought of the first photo of the album. */
async function toBuy(visitor: Page) {
  await visitor.goto('/regatta')
  await visitor.locator('a.frame').first().click()
  await visitor.getByRole('link', { name: 'Buy', exact: true }).click()
  await expect(visitor.getByRole('radio', { name: /10 × 15 cm print/ })).toBeVisible()
}

/** The same without scripts. */
async function toBuyWithout(visitor: Page) {
  await visitor.goto('/regatta')
  await visitor.locator('a.frame').first().click()
  await visitor.getByRole('link', { name: 'Buy this photograph' }).click()
}

/** Puts a print in the basket. */
async function put(visitor: Page) {
  await visitor.getByRole('radio', { name: /10 × 15 cm print/ }).check()
  await visitor.getByRole('button', { name: 'Put in the basket' }).click()
}

/** Goes on to order, and says who one is and where. */
async function sayWho(visitor: Page, name: string, street: string, town = 'Hollin Quay') {
  await visitor.getByRole('link', { name: 'Go on to order' }).click()
  await visitor.getByLabel('Your name').fill(name)
  await visitor.getByLabel('E-mail address').fill('somebody@example.test')
  await visitor.getByLabel('Street and number').fill(street)
  await visitor.getByLabel('Postcode').fill('X91')
  await visitor.getByLabel('Town').fill(town)
}

/** Presses a link that saves a file. */
async function saving(link: Locator) {
  const saved = page.waitForEvent('download')
  await link.click()
  return await saved
}

test('the shop opens once it is said how orders come to their buyers, and how they are paid', async () => {
  await page.goto('/workroom/shop')
  await expect(page.getByText('The shop is closed: visitors see no prices.')).toBeVisible()
  await noSeriousFinding(page)
  await page.getByRole('button', { name: 'Open the shop' }).click()
  await expect(page.getByText('Say from which country you send before the shop opens.')).toBeVisible()
  await page.getByRole('combobox', { name: 'Country you send from' }).selectOption({ label: 'Ireland' })
  await atHome().fill('4,5')
  await page.keyboard.press('Enter')
  await page.getByRole('textbox', { name: 'How buyers pay otherwise' }).fill('Pay within fourteen days into the account of the club.')
  await saved()
  await expect(page.getByText('The shop is open: visitors buy what albums sell.')).toBeVisible()
  // As it is counted, once it was read again.
  await page.reload()
  await expect(atHome()).toHaveValue('4.50')
  await atHome().fill('four')
  await page.keyboard.press('Enter')
  await expect(page.getByText('“four” is no amount in EUR.')).toBeVisible()
  await atHome().fill('4.50')
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'What sending abroad costs by' }).selectOption({ label: 'each thing costs' })
  await page.getByRole('textbox', { name: 'Postage abroad' }).fill('6')
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'How tax goes with prices' }).selectOption({ label: 'Prices include' })
  await saved()
  await noSeriousFinding(page)
})

test('a visitor buys on a phone: the photo, the crop, the basket, where it goes, the order', async ({ browser }) => {
  const visitor = await browser.newPage({ viewport: { width: 390, height: 844 }, hasTouch: true })
  await toBuy(visitor)
  await noSeriousFinding(visitor)
  await visitor.getByRole('radio', { name: /10 × 15 cm print/ }).check()
  await visitor.getByLabel('How many').fill('2')
  await visitor.getByRole('button', { name: 'Put in the basket' }).click()
  await expect(visitor.getByRole('heading', { name: 'Basket' })).toBeVisible()
  await expect(visitor.getByRole('link', { name: 'Basket 2' })).toBeVisible()
  await noSeriousFinding(visitor)
  // What is changed is counted at once.
  await visitor.getByRole('spinbutton').fill('3')
  await visitor.keyboard.press('Tab')
  await expect(visitor.getByRole('link', { name: 'Basket 3' })).toBeVisible()
  expect(await visitor.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await visitor.getByRole('link', { name: 'Go on to order' }).click()
  await expect(visitor.getByText('EUR 18.00')).toBeVisible()
  await visitor.getByLabel('Country').selectOption({ label: 'France' })
  await expect(visitor.getByText('EUR 31.50')).toBeVisible()
  await visitor.getByLabel('Country').selectOption({ label: 'Ireland' })
  await expect(visitor.getByText('EUR 18.00')).toBeVisible()
  await visitor.getByLabel('Your name').fill('Nell Garrow')
  await visitor.getByLabel('E-mail address').fill('nell@example.test')
  await visitor.getByRole('button', { name: 'Order, and pay as said' }).click()
  await expect(visitor.getByText('Give the street and the number.')).toBeVisible()
  await noSeriousFinding(visitor)
  await visitor.getByLabel('Street and number').fill('7 Ropewalk')
  await visitor.getByLabel('Postcode').fill('X91')
  await visitor.getByLabel('Town').fill('Hollin Quay')
  await visitor.getByLabel('Something to say with it, if you like').fill('Before the twelfth, please.')
  expect(await visitor.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await visitor.getByRole('button', { name: 'Order, and pay as said' }).dblclick()
  await expect(visitor.getByRole('heading', { name: 'Thank you' })).toBeVisible()
  await expect(visitor.getByText('Waits for payment')).toBeVisible()
  await noSeriousFinding(visitor)
  await visitor.close()
})

test('it waits in the workroom, and goes on step by step', async () => {
  await page.goto('/workroom')
  await expect(page.getByText('One order is to be seen to.')).toBeVisible()
  await page.getByRole('link', { name: 'See to them' }).click()
  const order = page.getByRole('region', { name: /^Order 1001 of Nell Garrow/ })
  await expect(order).toContainText('Before the twelfth, please.')
  await expect(order).toContainText('10 × 15 cm print, 3 pieces')
  await noSeriousFinding(page)
  await order.getByRole('button', { name: 'Its money has come' }).click()
  await expect(order.getByRole('status')).toHaveText('Paid')
  await order.getByRole('textbox', { name: 'Noted, for yourselves' }).fill('Paper comes on Tuesday')
  await order.getByRole('button', { name: 'Keep the note' }).click()
  await order.getByRole('button', { name: 'It is sent' }).click()
  await expect(order.getByRole('status')).toHaveText('Sent')
  await page.getByRole('status').filter({ has: page.getByRole('button', { name: 'Undo' }) }).getByRole('button', { name: 'Undo' }).click()
  await expect(order.getByRole('status')).toHaveText('Paid')
  await page.getByRole('button', { name: 'Not paid 0' }).click()
  await expect(page.getByText('Everything is paid')).toBeVisible()
})

test('who cuts something off moves it, and the order has it so', async ({ browser }) => {
  await page.goto('/workroom/prices')
  await page.getByRole('main').getByRole('link', { name: /Prints of the regatta/ }).click()
  await page.getByRole('textbox', { name: 'Size' }).last().fill('5x5cm')
  await page.keyboard.press('Tab')
  await page.keyboard.type('2')
  await page.keyboard.press('Enter')
  await expect(page.getByText('Saved; albums sell by it as it stands.')).toBeVisible()
  const visitor = await browser.newPage()
  await toBuy(visitor)
  const moved = visitor.getByRole('slider', { name: 'Move what is cut off' })
  await visitor.getByRole('radio', { name: /^10 × 15 cm print/ }).check()
  await expect(moved).toBeHidden()
  await visitor.getByRole('radio', { name: /^5 × 5 cm print/ }).check()
  const cut = visitor.locator('.away path')
  const before = (await cut.getAttribute('d')) ?? ''
  await moved.focus()
  await visitor.keyboard.press('Home')
  await expect(cut).not.toHaveAttribute('d', before)
  await visitor.getByRole('button', { name: 'Put in the basket' }).click()
  // The upper or the left end of the picture is what is printed.
  await expect(visitor.locator('.printed')).toHaveAttribute('viewBox', /^0 0 /)
  await visitor.close()
})

test('without scripts it is bought as well, and the link opens the order and nothing else', async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false })
  const visitor = await context.newPage()
  await toBuyWithout(visitor)
  await put(visitor)
  await visitor.getByRole('spinbutton').fill('2')
  await visitor.getByRole('button', { name: 'Count anew' }).last().click()
  await sayWho(visitor, 'Perrin Oakes', '2 The Dunes', 'North Strand')
  await visitor.getByRole('button', { name: 'Order, and pay as said' }).click()
  await expect(visitor.getByText('Order 1002 is placed.')).toBeVisible()
  const other = await browser.newPage()
  await other.goto(visitor.url())
  await expect(other.getByText('2 The Dunes')).toBeVisible()
  await other.goto('/basket')
  await expect(other.getByText('Nothing is in it yet.')).toBeVisible()
  await other.close()
  await context.close()
})

test('where buyers pay online they are led to the payment service and back, and money goes back', async ({ browser }) => {
  await page.goto('/workroom/shop')
  await page.getByRole('combobox', { name: 'Whether buyers pay online' }).selectOption({ label: 'online, at the payment service' })
  await saved()
  await noSeriousFinding(page)
  const visitor = await browser.newPage({ viewport: { width: 390, height: 844 }, hasTouch: true })
  await toBuy(visitor)
  await put(visitor)
  await sayWho(visitor, 'Orla Finnegan', '3 Kelp Row')
  await expect(visitor.getByRole('radio', { name: /^Online, now/ })).toBeChecked()
  await noSeriousFinding(visitor)
  await visitor.getByRole('button', { name: 'Order', exact: true }).click()
  await expect(visitor.getByText('Order 1003 from', { exact: false })).toBeVisible()
  await visitor.getByRole('button', { name: 'A card that is declined' }).click()
  await expect(visitor.getByRole('status')).toContainText('The card was declined')
  await visitor.getByRole('button', { name: 'Pay, and go back' }).click()
  await expect(visitor.getByText('Paid', { exact: true }).first()).toBeVisible()
  await expect(visitor.getByRole('button', { name: /online$/ })).toHaveCount(0)
  await noSeriousFinding(visitor)
  await visitor.close()
  await page.goto('/workroom/orders')
  await page.getByRole('button', { name: 'Order 1003 of Orla Finnegan' }).click()
  const order = page.getByRole('region', { name: /^Order 1003 of Orla Finnegan/ })
  await expect(order.getByRole('status')).toHaveText('Paid')
  await order.getByRole('button', { name: 'Give money back …' }).click()
  await order.getByRole('textbox', { name: 'Back goes' }).fill('400')
  await order.getByRole('button', { name: 'Give it back' }).click()
  await expect(page.getByText('At most EUR 9.00 can go back.')).toBeVisible()
  await order.getByRole('textbox', { name: 'Back goes' }).fill('2,50')
  await noSeriousFinding(page)
  await order.getByRole('button', { name: 'Give it back' }).click()
  await expect(order.getByRole('status')).toHaveText('Paid, refunded in part')
  await expect(order).toContainText('EUR 2.50 refunded')
  // What has happened to money is not taken back.
  await expect(page.getByText('2,50 goes back.')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveCount(0)
})

test('who does not pay finds the order waiting, and pays it later, without scripts too', async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false })
  const visitor = await context.newPage()
  await toBuyWithout(visitor)
  await put(visitor)
  await sayWho(visitor, 'Tam Quill', '9 Kelp Row')
  await visitor.getByRole('radio', { name: /^Otherwise/ }).check()
  await visitor.getByRole('button', { name: 'Order', exact: true }).click()
  await expect(visitor.getByText('Waits for payment')).toBeVisible()
  await visitor.getByRole('button', { name: 'Pay EUR 9.00 online' }).click()
  await visitor.getByRole('button', { name: 'Do not pay' }).click()
  await expect(visitor.getByText('Waits for payment')).toBeVisible()
  await visitor.getByRole('button', { name: 'Pay EUR 9.00 online' }).click()
  await visitor.getByRole('button', { name: 'Pay, and go back' }).click()
  await expect(visitor.getByText('Paid', { exact: true }).first()).toBeVisible()
  await context.close()
})

test('what is paid is printed: files of exactly its size, a slip for the parcel, and a list of all there is to make', async () => {
  await page.goto('/workroom/shop')
  await page.getByRole('combobox', { name: 'What stands over the edges of print files' }).selectOption({ label: '3 mm over each edge' })
  await saved()
  await noSeriousFinding(page)
  await page.goto('/workroom/orders')
  await page.getByRole('button', { name: 'Order 1003 of Orla Finnegan' }).click()
  const order = page.getByRole('region', { name: /^Order 1003 of Orla Finnegan/ })
  // 10 by 15 centimetres and 3 millimetres round them, at 300 pixels an inch.
  await expect(order).toContainText(/1,842 × 1,251 pixels, 300 an inch|1,251 × 1,842 pixels, 300 an inch/)
  await noSeriousFinding(page)
  const one = await saving(order.getByRole('link', { name: 'Print file', exact: true }))
  expect(one.suggestedFilename()).toMatch(/^1003-01-1x-10x15cm-print-.*\.jpg$/)
  const told = execFileSync('identify', ['-format', '%w %h %x %y %U', await one.path()]).toString().split(' ')
  expect([told.slice(0, 2).sort(), told.slice(2)]).toEqual([['1251', '1842'], ['300', '300', 'PixelsPerInch']])
  expect((await saving(order.getByRole('link', { name: 'Print files', exact: true }))).suggestedFilename()).toBe('order 1003, print files.zip')
  expect((await saving(page.getByRole('link', { name: /^Print files of/ }))).suggestedFilename()).toMatch(/print files\.zip$/)
  for (const paper of [order.getByRole('link', { name: 'Packing slip' }), page.getByRole('link', { name: 'Pick list' })]) {
    const answer = await page.request.get((await paper.getAttribute('href')) ?? '')
    expect((await answer.body()).subarray(0, 5).toString()).toBe('%PDF-')
  }
})

test('orders have invoices once it is said who sells, and their buyers find them with the order', async ({ browser }) => {
  await page.goto('/workroom/shop')
  await page.getByRole('combobox', { name: 'Whether invoices are written' }).selectOption({ label: 'an invoice is written' })
  await expect(page.getByText('Say who sells, with the address below the name, before invoices are written.')).toBeVisible()
  await page.getByRole('textbox', { name: /^Who sells/ }).fill('Rowing Club Hollin Quay\nThe boathouse\nHollin Quay')
  const first = page.getByRole('textbox', { name: 'Number of the first invoice' })
  await first.fill('40')
  await first.press('Enter')
  const prefix = page.getByRole('textbox', { name: 'What stands before the number of invoices' })
  await prefix.fill('R-')
  await prefix.press('Enter')
  await saved()
  await noSeriousFinding(page)
  const visitor = await browser.newPage({ viewport: { width: 390, height: 844 }, hasTouch: true })
  await toBuy(visitor)
  await put(visitor)
  await sayWho(visitor, 'Perrin Vane', '3 Slipway')
  // So many letters go to one address, and no more.
  await visitor.getByLabel('E-mail address').fill('perrin@example.test')
  await visitor.getByRole('radio', { name: /^Otherwise/ }).check()
  await visitor.getByRole('button', { name: 'Order', exact: true }).click()
  await expect(visitor.getByText('Waits for payment')).toBeVisible()
  await page.goto('/workroom/orders')
  await page.getByRole('button', { name: /^Order \d+ of Perrin Vane/ }).click()
  const order = page.getByRole('region', { name: /^Order \d+ of Perrin Vane/ })
  await order.getByRole('button', { name: 'Its money has come' }).click()
  // The site writes it by itself, and the workroom hears of it.
  const paper = order.getByRole('link', { name: 'Invoice R-40' })
  await expect(paper).toBeVisible()
  await noSeriousFinding(page)
  await visitor.reload()
  const theirs = visitor.getByRole('link', { name: 'Invoice R-40' })
  await noSeriousFinding(visitor)
  for (const [who, link] of [[page, paper], [visitor, theirs]] as const) {
    const answer = await who.request.get((await link.getAttribute('href')) ?? '')
    expect((await answer.body()).subarray(0, 5).toString()).toBe('%PDF-')
  }
  // One that came before has none until somebody asks.
  await page.getByRole('button', { name: 'All' }).click()
  await page.getByRole('button', { name: 'Order 1001 of Nell Garrow' }).click()
  await page.getByRole('button', { name: 'Write the invoice now' }).click()
  await expect(page.getByText('The invoice is written.')).toBeVisible()
  await expect(page.getByRole('link', { name: 'Invoice R-41' })).toBeVisible()
  expect((await saving(page.getByRole('link', { name: 'invoices as PDF' }))).suggestedFilename()).toMatch(/invoices \d{4}\.zip$/)
  await visitor.close()
})

test('a closed shop shows no prices', async ({ browser }) => {
  await page.goto('/workroom/shop')
  await page.getByRole('button', { name: 'Close the shop' }).click()
  await expect(page.getByText('The shop is closed: visitors see no prices.')).toBeVisible()
  const visitor = await browser.newPage()
  await visitor.goto('/regatta')
  await expect(visitor.getByRole('link', { name: 'Basket' })).toHaveCount(0)
  await visitor.goto('/basket')
  await expect(visitor.getByText('Nothing is sold here at the moment.')).toBeVisible()
  await visitor.close()
})
