import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { w } from '../../words'
import { useSession } from '../shell/data'
import { moment } from '../shell/format'
import type { Order } from './data'
import { useOrderAct } from './useOrderAct'

/** Forgets who bought, once nothing of it is left to do; it is asked first, for it cannot be taken back. */
export function OrderForgetting({ order }: { order: Order }) {
  const owner = useSession().data?.role === 'owner'
  const [asking, setAsking] = useState(false)
  const forget = useOrderAct(
    order,
    (params, _: undefined) => body(api.POST('/api/orders/{order}/forget', { params }), w.errors.away),
    () => w.orders.forgot,
    true,
  )
  if (order.forgotten) {
    return (
      <p className="text-small text-quiet">
        {w.orders.forgottenAt(moment(order.forgotten))}
        {order.namedUntil !== null && ` ${w.orders.namedUntil(order.namedUntil)}`}
      </p>
    )
  }
  if (!owner || !order.canForget) return null
  return (
    <div>
      <Button look="word" disabled={forget.isPending} onClick={() => setAsking(true)}>
        {w.orders.forget}
      </Button>
      <Dialog open={asking} onClose={() => setAsking(false)} title={w.orders.forgetAsk(order.name)}>
        <p className="mt-3">{w.orders.forgetText(order.email)}</p>
        {order.namedUntil !== null && <p className="mt-2">{w.orders.namedUntil(order.namedUntil)}</p>}
        <p className="mt-6 flex items-baseline gap-5">
          <Button
            look="next"
            onClick={() => {
              forget.mutate(undefined)
              setAsking(false)
            }}
          >
            {w.orders.forgetSay}
          </Button>
          <Button look="word" onClick={() => setAsking(false)}>
            {w.orders.forgetNot}
          </Button>
        </p>
      </Dialog>
    </div>
  )
}
