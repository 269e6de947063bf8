import { useState } from 'react'
import { api, body } from '../../api/client'
import { AskDialog } from '../../kit/AskDialog'
import { Button } from '../../kit/Button'
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
      <AskDialog
        open={asking}
        title={w.orders.forgetAsk(order.name)}
        text={[
          w.orders.forgetText(order.email),
          ...(order.namedUntil !== null ? [w.orders.namedUntil(order.namedUntil)] : []),
        ]}
        say={w.orders.forgetSay}
        not={w.orders.forgetNot}
        onSay={() => forget.mutate(undefined)}
        onClose={() => setAsking(false)}
      />
    </div>
  )
}
