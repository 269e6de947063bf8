import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'
import { type Kept, useSaved } from '../shell/useSaved'

export type CouponSeen = Api['CouponSeen']
export type Coupon = CouponSeen['coupon']

export const couponsKey = ['coupons']

export const readCoupons = () => body(api.GET('/api/coupons'), w.errors.away)

/** A coupon as it begins: ten per cent, for everybody. */
export const begun = (code: string, currency: string): Coupon => ({
  code,
  kind: 'percent',
  off: '10',
  currency,
  byExpress: false,
  abroad: false,
  from: '',
  begins: '',
  ends: '',
  uses: '',
  isOnceEach: false,
  goesWithOthers: false,
  isOff: false,
  note: '',
})

/** A coupon while it is worked on. */
export function useCoupon(seen: CouponSeen) {
  const kept: Kept<CouponSeen, Coupon> = {
    key: [...couponsKey, 'one', seen.id],
    value: (now) => now.coupon,
    version: (now) => now.version,
    read: async () => {
      const found = (await readCoupons()).coupons.find((one) => one.id === seen.id)
      if (!found) throw new ApiProblem(404, 'gone', w.coupons.gone)
      return found
    },
    write: async (coupon, version) =>
      (
        await body(
          api.PUT('/api/coupons/{coupon}', {
            params: { path: { coupon: seen.id }, header: { 'If-Match': version } },
            body: coupon,
          }),
          w.errors.away,
        )
      ).seen,
    after: (client) => void client.invalidateQueries({ queryKey: couponsKey, exact: true }),
    pause: 600,
  }
  const { value, problem, state, change, ...rest } = useSaved(seen, kept)
  return {
    ...rest,
    state,
    coupon: value,
    /** What is wrong, by field, and with the whole. */
    faults: problem?.fields ?? {},
    fault: problem && state !== 'stale' ? problem.message : '',
    change: (next: Partial<Coupon>) => change((now) => ({ ...now, ...next })),
  }
}
