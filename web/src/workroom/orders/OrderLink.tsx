import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { HandOn } from '../shell/HandOn'
import type { Order } from './data'
import { useOrderAct } from './useOrderAct'

/** A new link for a buyer who has lost theirs; it is shown when it is made and never again. */
export function OrderLink({ order }: { order: Order }) {
  const [link, setLink] = useState('')
  const make = useOrderAct(
    order,
    async (params, _: undefined) => {
      const made = await body(api.POST('/api/orders/{order}/link', { params }), w.errors.away)
      setLink(made.link)
      return made
    },
    () => w.orders.linked,
    true,
  )
  return (
    <div className="min-w-0">
      {link ? (
        <HandOn link={link} label={w.orders.linkOf(order.number)} words={w.orders} />
      ) : (
        <Button look="word" disabled={make.isPending} onClick={() => make.mutate(undefined)}>
          {w.orders.link}
        </Button>
      )}
      <span className="mt-1 block text-small text-quiet">{link ? w.orders.linkGoes : w.orders.linkWhat}</span>
    </div>
  )
}
