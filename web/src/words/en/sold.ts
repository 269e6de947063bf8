import { plural } from './plain'

/** What was sold. */
export const soldWords = {
  sold: {
    title: 'What was sold',
    lead: 'Orders that are paid and not cancelled, by when they were paid.',
    within: 'In',
    year: 'Year',
    for: 'for',
    currency: 'Currency',
    whole: (orders: number, pieces: number, total: string) =>
      orders === 0
        ? 'nothing yet.'
        : `${plural(orders, 'order', 'orders')} of ${plural(pieces, 'piece', 'pieces')}, ${total}.`,
    none: 'Nothing was sold',
    noneLead: 'An order counts as soon as its money has come.',
    months: 'By month',
    month: 'Month',
    share: 'Beside the best month',
    monthNames: Array.from({ length: 12 }, (_, i) =>
      new Intl.DateTimeFormat('en-GB', { month: 'long', timeZone: 'UTC' }).format(Date.UTC(2000, i, 1)),
    ),
    orders: 'Orders',
    parts: {
      goods: 'Goods',
      takenOff: 'Coupons took off',
      postage: 'Postage',
      tax: 'Tax in it',
      returned: 'Went back',
      total: 'Paid',
    },
    all: 'All of it',
    options: 'By what was bought',
    photos: 'By photo',
    pieces: (n: number) => plural(n, 'piece', 'pieces'),
    stays: (amount: string, inPart: boolean) =>
      inPart ? `${amount} stay, where the cost is known` : `${amount} stay`,
    rule: 'Goods are as they were ordered, before coupons. What stays is what they were sold for less what your price list said they cost; coupons, money that went back, postage and tax are not in it.',
  },
} as const
