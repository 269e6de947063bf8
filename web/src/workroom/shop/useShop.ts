import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { type Kept, useSaved } from '../shell/useSaved'

export type Shop = Api['ShopSaid']

export const shopKey = ['shop']

export const readShop = () => body(api.GET('/api/shop'), w.errors.away)

const kept: Kept<Api['ShopSeen'], Shop> = {
  key: shopKey,
  value: (seen) => seen.shop,
  version: (seen) => seen.edited,
  read: readShop,
  write: async (shop, edited) =>
    (
      await body(
        api.PUT('/api/shop', { params: { header: { 'If-Match': edited } }, body: shop }),
        w.errors.away,
      )
    ).seen,
  pause: 600,
}

/** How the site sells, while it is worked on. */
export function useShop(seen: Api['ShopSeen']) {
  const { value, problem, state, change, ...rest } = useSaved(seen, kept)
  return {
    ...rest,
    state,
    shop: value,
    /** What is wrong, by field, and with the whole. */
    faults: problem?.fields ?? {},
    fault: problem && state !== 'stale' ? problem.message : '',
    change: (next: Partial<Shop>) => change((now) => ({ ...now, ...next })),
    changePostage: (next: Partial<Shop['postage']>) =>
      change((now) => ({ ...now, postage: { ...now.postage, ...next } })),
    changeTax: (next: Partial<Shop['tax']>) => change((now) => ({ ...now, tax: { ...now.tax, ...next } })),
  }
}
