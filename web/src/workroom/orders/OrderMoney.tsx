import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useSession } from '../shell/data'
import type { Order } from './data'
import { useOrderAct } from './useOrderAct'

/** What came and went back of an order, and where an owner gives money back. */
export function OrderMoney({ order }: { order: Order }) {
  const owner = useSession().data?.role === 'owner'
  if (order.money.length === 0 && !(owner && order.refundable)) return null
  return (
    <section aria-label={w.orders.money} className="mt-4 border-t border-line pt-3">
      <ul className="text-quiet">
        {order.money.map((what, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two payments may read the same.
          <li key={i}>{what}</li>
        ))}
      </ul>
      {owner && order.refundable && <Refund key={order.version} order={order} most={order.refundable} />}
    </section>
  )
}

function Refund({ order, most }: { order: Order; most: string }) {
  const [amount, setAmount] = useState<string>()
  const refund = useOrderAct(
    order,
    (params, back: string) =>
      body(api.POST('/api/orders/{order}/refunds', { params, body: { amount: back } }), w.errors.away),
    w.orders.gaveBack,
    true,
  )
  if (amount === undefined)
    return (
      <Button look="word" className="mt-1" onClick={() => setAmount(most)}>
        {w.orders.refund}
      </Button>
    )
  return (
    <form
      className="mt-2 flex flex-wrap items-baseline gap-x-4 gap-y-2"
      onSubmit={(e) => {
        e.preventDefault()
        refund.mutate(amount.trim())
      }}
    >
      <label className="flex items-baseline gap-2">
        {w.orders.goesBack}
        <input
          // biome-ignore lint/a11y/noAutofocus: whoever pressed is about to type here.
          autoFocus
          value={amount}
          inputMode="decimal"
          maxLength={20}
          size={8}
          onChange={(e) => setAmount(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && setAmount(undefined)}
          className="border-b border-strong-line bg-transparent font-semibold tabular-nums outline-none focus:border-plum"
        />
      </label>
      <Button type="submit" disabled={refund.isPending}>
        {w.orders.giveBack}
      </Button>
      <Button look="word" type="button" onClick={() => setAmount(undefined)}>
        {w.orders.keepIt}
      </Button>
      <span className="basis-full text-small text-quiet">
        {order.goesByService ? w.orders.backByService : w.orders.backByHand}
      </span>
    </form>
  )
}
