import { PriceWord } from '../../kit/PriceWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import type { Coupon, useCoupon } from './data'

const yesNo = ['yes', 'no'] as const

/** What a coupon takes off and for whom, as sentences that are set. */
export function CouponTerms({ work }: { work: ReturnType<typeof useCoupon> }) {
  const { coupon, faults, change } = work
  const yes = (field: 'byExpress' | 'abroad' | 'isOnceEach' | 'goesWithOthers') => (
    <WordSelect
      label={w.coupons.labels[field]}
      value={coupon[field] ? 'yes' : 'no'}
      choices={yesNo.map((one) => [one, w.coupons.yesNo[field][one]] as const)}
      onChoose={(one) => change({ [field]: one === 'yes' } as Partial<Coupon>)}
    />
  )
  const word = (field: 'off' | 'from' | 'uses', hint: string) => (
    <PriceWord
      label={w.coupons.labels[field]}
      value={coupon[field]}
      hint={hint}
      invalid={!!faults[field]}
      onSay={(value) => change({ [field]: value } as Partial<Coupon>)}
    />
  )
  const day = (field: 'begins' | 'ends') => (
    <label className="inline-flex items-baseline gap-1.5">
      {w.coupons[field]}
      <input
        type="date"
        value={coupon[field]}
        aria-invalid={!!faults[field]}
        onChange={(e) => change({ [field]: e.target.value } as Partial<Coupon>)}
        className="border-b border-strong-line bg-transparent font-semibold outline-none hover:border-ink focus:border-plum"
      />
    </label>
  )
  return (
    <div className="max-w-[44rem]">
      <p className="leading-[1.9]">
        {w.coupons.takes}{' '}
        {coupon.kind !== 'postage' && <>{word('off', coupon.kind === 'percent' ? '10' : '5.00')} </>}
        <WordSelect
          label={w.coupons.kindLabel}
          value={coupon.kind}
          choices={(['percent', 'amount', 'postage'] as const).map(
            (one) =>
              [one, one === 'amount' ? w.coupons.amount(coupon.currency) : w.coupons.kinds[one]] as const,
          )}
          onChoose={(kind) => change({ kind, off: kind === 'percent' ? '10' : kind === 'amount' ? '5' : '' })}
        />
        {coupon.kind === 'postage' && (
          <>
            , {yes('byExpress')}, {yes('abroad')}
          </>
        )}
        . {w.coupons.from} {word('from', w.coupons.anyValue)}
        {coupon.from && w.coupons.andMore}
        {w.coupons.goes} {yes('goesWithOthers')}.
      </p>
      <p className="leading-[1.9]">
        {w.coupons.uses} {word('uses', w.coupons.anyNumber)} {w.coupons.orders(coupon.uses)},{' '}
        {yes('isOnceEach')}.
      </p>
      <p className="mt-1 flex flex-wrap gap-x-6 gap-y-2">
        {day('begins')}
        {day('ends')}
        {!(coupon.begins && coupon.ends) && <span className="text-small text-quiet">{w.coupons.noDays}</span>}
      </p>
      <label className="mt-4 block">
        <span className="block text-small text-quiet">{w.coupons.note}</span>
        <input
          value={coupon.note}
          maxLength={200}
          autoComplete="off"
          placeholder={w.coupons.noteHint}
          onChange={(e) => change({ note: e.target.value })}
          className="w-full border-b border-strong-line bg-transparent py-1 outline-none placeholder:text-quiet focus:border-plum"
        />
      </label>
    </div>
  )
}
