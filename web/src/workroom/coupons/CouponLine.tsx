import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { PriceWord } from '../../kit/PriceWord'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'
import { StaleVerbs } from '../shell/Stale'
import { CouponTerms } from './CouponTerms'
import { type CouponSeen, useCoupon } from './data'

/** One coupon: what it takes off and how often it was used; pressed, it is set below. */
export function CouponLine({ seen, open, onOpen }: { seen: CouponSeen; open: boolean; onOpen: () => void }) {
  const { coupon } = seen
  const idle = seen.standing !== ''
  return (
    <li className="border-t border-line">
      <button
        type="button"
        aria-expanded={open}
        onClick={onOpen}
        className="group grid w-full cursor-pointer grid-cols-[11rem_minmax(0,1fr)_auto] items-baseline gap-x-5 py-3 text-left max-md:grid-cols-[minmax(0,1fr)_auto]"
      >
        <span
          className={`truncate font-display text-lead font-semibold tracking-wide group-hover:underline group-hover:decoration-strong-line group-hover:underline-offset-4 ${idle ? 'text-quiet' : ''}`}
        >
          {coupon.code}
        </span>
        <span className="min-w-0 max-md:order-last max-md:col-span-2">
          {w.coupons.says(coupon)}
          {coupon.note && <span className="block truncate text-small text-quiet">{coupon.note}</span>}
        </span>
        <span className="text-right text-small tabular-nums">
          {w.coupons.used(seen.used, coupon.uses)}
          {idle && <span className="block font-semibold">{seen.standing}</span>}
        </span>
      </button>
      {open && <Opened seen={seen} />}
    </li>
  )
}

function Opened({ seen }: { seen: CouponSeen }) {
  const work = useCoupon(seen)
  const { coupon, state, fault, faults, change } = work
  const away = useAct(
    () =>
      body(
        api.DELETE('/api/coupons/{coupon}', {
          params: { path: { coupon: seen.id }, header: { 'If-Match': seen.version } },
        }),
        w.errors.away,
      ),
    (done) => tellDone(w.coupons.letGoDone(coupon.code), done),
  )
  return (
    <section aria-label={coupon.code} className="mb-6 border-l-[3px] border-plum pl-5">
      <p className="leading-[1.9]">
        {w.coupons.code}{' '}
        <PriceWord
          label={w.coupons.codeLabel}
          value={coupon.code}
          hint={w.coupons.codeHint}
          invalid={!!faults.code}
          words
          onSay={(code) => change({ code })}
        />
      </p>
      <CouponTerms work={work} />
      <p className="mt-3 flex min-h-6 flex-wrap items-baseline gap-x-5 gap-y-1 text-small">
        <span role="status" className="text-quiet">
          {state === 'saved' ? w.coupons.saved : state === 'stale' ? w.menu.stale : w.plate.unsaved}
        </span>
        {state === 'stale' && (
          <StaleVerbs onReload={() => void work.takeTheirs()} onOverwrite={() => void work.overwrite()} />
        )}
        {fault && <span className="font-semibold">{fault}</span>}
      </p>
      <p className="mt-2 flex gap-5 text-small">
        <Button look="word" onClick={() => change({ isOff: !coupon.isOff })}>
          {coupon.isOff ? w.coupons.turnOn : w.coupons.turnOff}
        </Button>
        <Button look="word" onClick={() => away.mutate(undefined)}>
          {w.coupons.letGo}
        </Button>
      </p>
    </section>
  )
}
