import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { LineField } from '../../kit/LineField'
import { w } from '../../words'
import { LineForm } from '../shell/LineForm'
import { refresh } from '../shell/refresh'
import { Empty, Heading } from '../shell/Station'
import { CouponLine } from './CouponLine'
import { begun, couponsKey, readCoupons } from './data'

/** All coupons: what each takes off, and how often it was used. */
export function CouponsStation() {
  const seen = useQuery({ queryKey: couponsKey, queryFn: readCoupons })
  const [open, setOpen] = useState<string | null>(null)
  if (seen.error && !seen.data) return <p className="p-10">{seen.error.message}</p>
  if (!seen.data) return null
  const { coupons, currency } = seen.data
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.coupons.title} lead={w.coupons.lead} />
      {coupons.length === 0 ? (
        <Empty title={w.coupons.none} lead={w.coupons.noneLead} />
      ) : (
        <>
          <ul className="mt-6 max-w-[58rem] border-b border-line">
            {coupons.map((one) => (
              <CouponLine
                key={one.id}
                seen={one}
                open={open === one.id}
                onOpen={() => setOpen(open === one.id ? null : one.id)}
              />
            ))}
          </ul>
          <p className="mt-3 max-w-[44rem] text-small text-quiet">{w.coupons.rule}</p>
        </>
      )}
      <Make currency={currency} onMade={setOpen} />
    </div>
  )
}

/** Makes a coupon: its code is all it takes, and what it does is said then. */
function Make({ currency, onMade }: { currency: string; onMade: (coupon: string) => void }) {
  const client = useQueryClient()
  return (
    <section aria-label={w.coupons.make} className="mt-8 max-w-[28rem]">
      <LineForm
        verb={w.coupons.make}
        look="next"
        send={async (text) => {
          const { seen } = await body(
            api.POST('/api/coupons', { body: begun(text('code'), currency) }),
            w.errors.away,
          )
          refresh(client)
          onMade(seen.id)
        }}
      >
        {(faults) => <LineField name="code" label={w.coupons.codeLabel} complete="off" fault={faults.code} />}
      </LineForm>
    </section>
  )
}
