import { api, body } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { w } from '../../words'
import { moment } from '../shell/format'
import type { Order } from './data'
import { useOrderAct } from './useOrderAct'

/** What was written of an order, and where one has its invoice written before that is due. */
export function OrderInvoices({ order }: { order: Order }) {
  const write = useOrderAct(
    order,
    (params, _: undefined) => body(api.POST('/api/orders/{order}/invoices', { params }), w.errors.away),
    () => w.orders.invoiced,
    true,
  )
  if (order.invoices.length === 0 && !order.canBeInvoiced) return null
  return (
    <section aria-label={w.orders.invoices} className="mt-4 border-t border-line pt-3">
      <ul>
        {order.invoices.map((one) => (
          <li key={one.number} className="flex flex-wrap items-baseline justify-between gap-x-6">
            <span>
              <a
                href={`/api/orders/${order.id}/invoices/${one.number}`}
                target="_blank"
                rel="noreferrer"
                className={asWord}
              >
                {w.orders.invoiceKinds[one.kind](one.called)}
              </a>
              <span className="ml-3 text-small text-quiet">{moment(one.written)}</span>
            </span>
            <span className="text-quiet tabular-nums">{one.amount}</span>
          </li>
        ))}
      </ul>
      {order.canBeInvoiced && (
        <Button look="word" disabled={write.isPending} onClick={() => write.mutate(undefined)}>
          {w.orders.invoiceNow}
        </Button>
      )}
    </section>
  )
}
