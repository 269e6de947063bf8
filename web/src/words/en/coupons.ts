/** What a coupon takes off, as its line says it. */
function off(coupon: { kind: string; off: string; currency: string; byExpress: boolean; abroad: boolean }) {
  if (coupon.kind === 'percent') return `${coupon.off} % off the goods`
  if (coupon.kind === 'amount') return `${coupon.currency} ${coupon.off} off the goods`
  const [express, abroad] = [coupon.byExpress && 'by express', coupon.abroad && 'abroad']
  return ['No postage', [express, abroad].filter(Boolean).join(' and ')].filter(Boolean).join(', also ')
}

const day = (iso: string) =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(iso))

/** Coupons, and what they take off. */
export const couponWords = {
  coupons: {
    title: 'Coupons',
    lead: 'Codes that take something off. Buyers type them into their basket.',
    none: 'No coupons yet',
    noneLead:
      'Give a club, a class or those who bought last year a code. While there is none, buyers are not asked for one.',
    rule: 'Shares and amounts are of what the goods cost, and never more than that. Whether postage is free by value goes by the goods before coupons; tax by what is left.',
    make: 'Make a coupon',
    codeLabel: 'Code of the coupon',
    codeHint: 'CLUB10',
    code: 'Buyers type',
    takes: 'It takes off',
    kindLabel: 'What the coupon takes off',
    kinds: { percent: 'per cent of the goods', postage: 'costs of postage' },
    amount: (currency: string) => `${currency} of the goods`,
    from: 'It is for goods of',
    anyValue: 'any value',
    andMore: ' and more',
    goes: ', and goes',
    uses: 'It is for',
    anyNumber: 'any number',
    orders: (uses: string) => (uses === '' ? 'of orders' : uses === '1' ? 'order' : 'orders'),
    begins: 'Good from',
    ends: 'until the end of',
    noDays: 'Where no day stands it is good at once, and for ever.',
    labels: {
      off: 'How much the coupon takes off',
      from: 'Value of goods from which the coupon is good',
      uses: 'Number of orders the coupon is for',
      byExpress: 'Whether express postage is taken off',
      abroad: 'Whether postage abroad is taken off',
      isOnceEach: 'How often each buyer can use the coupon',
      goesWithOthers: 'Whether the coupon goes with others',
    },
    yesNo: {
      byExpress: { yes: 'of express post, too', no: 'not of express post' },
      abroad: { yes: 'and abroad', no: 'and not abroad' },
      isOnceEach: { yes: 'once for each buyer', no: 'as often as a buyer likes' },
      goesWithOthers: { yes: 'with other coupons', no: 'with no other coupon' },
    },
    note: 'What it is for; only those who sell read it',
    noteHint: 'For the juniors, until the season ends',
    says: (coupon: {
      kind: string
      off: string
      currency: string
      byExpress: boolean
      abroad: boolean
      from: string
      begins: string
      ends: string
      isOnceEach: boolean
      goesWithOthers: boolean
    }) =>
      [
        off(coupon),
        coupon.from && `from ${coupon.from}`,
        coupon.begins && `from ${day(coupon.begins)}`,
        coupon.ends && `until ${day(coupon.ends)}`,
        coupon.isOnceEach && 'once for each buyer',
        coupon.goesWithOthers && 'with others',
      ]
        .filter(Boolean)
        .join(', '),
    used: (used: number, uses: string) =>
      uses ? `used ${used} of ${uses} times` : (['not used yet', 'used once'][used] ?? `used ${used} times`),
    saved: 'Saved; baskets have it at once.',
    turnOff: 'Let nobody use it',
    turnOn: 'Let it be used again',
    letGo: 'Let this coupon go',
    letGoDone: (code: string) => `The coupon ${code} is let go; orders keep what it took off.`,
    gone: 'This coupon is not there any more.',
  },
} as const
