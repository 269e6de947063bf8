import { useQuery } from '@tanstack/react-query'
import { api, body } from '../../api/client'
import { asPlain, Button } from '../../kit/Button'
import { w } from '../../words'
import { moment } from '../shell/format'
import { keyOf, type Order, readOrder, type Step } from './data'
import { OrderedLine } from './OrderedLine'
import { OrderForgetting } from './OrderForgetting'
import { OrderInvoices } from './OrderInvoices'
import { OrderLink } from './OrderLink'
import { OrderMoney } from './OrderMoney'
import { OrderNote } from './OrderNote'
import { OrderOthers } from './OrderOthers'
import { useOrderAct } from './useOrderAct'

/** One order: where it stands and what comes next, what was ordered, what it comes to, and who for. */
export function OneOrder({ id }: { id: string }) {
  const { data: order, error } = useQuery({ queryKey: keyOf(id), queryFn: () => readOrder(id) })
  if (!order) return error ? <p>{error.message}</p> : null
  return (
    <section
      aria-label={w.orders.open(order.number, order.name || w.orders.nobody)}
      className="min-w-0 self-start lg:sticky lg:top-6"
    >
      <header className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <h2 className="text-head">
          {w.orders.number(order.number)}, {order.name || w.orders.nobody}
        </h2>
        <p className="text-small text-quiet">
          {w.orders.placed(moment(order.at))}
          {order.paid && `, ${w.orders.paid(moment(order.paid))}`}
        </p>
      </header>
      <Standing order={order} />
      <div className="mt-6 grid grid-cols-[minmax(0,1fr)_17rem] gap-x-12 gap-y-8 max-2xl:grid-cols-1">
        <div className="min-w-0">
          <ul className="border-b border-line">
            {order.lines.map((line, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: an order never changes its lines.
              <OrderedLine key={i} order={order.id} place={i + 1} line={line} />
            ))}
          </ul>
          <Sum order={order} />
          <OrderMoney order={order} />
          <OrderInvoices order={order} />
        </div>
        <About order={order} />
      </div>
    </section>
  )
}

/** Where it stands, and what can be done with it: what usually comes next first. */
function Standing({ order }: { order: Order }) {
  const step = useOrderAct(
    order,
    (params, next: Step) =>
      body(api.POST('/api/orders/{order}/steps', { params, body: { step: next } }), w.errors.away),
    (next) => w.orders.done[next](order.number),
  )
  const [first, ...others] = order.next
  return (
    <div className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-2">
      <p role="status" className="border-l-[3px] border-plum pl-3 font-semibold">
        {order.standing}
      </p>
      {first && (
        <Button look="next" disabled={step.isPending} onClick={() => step.mutate(first)}>
          {w.orders.steps[first]}
        </Button>
      )}
      {others.map((next) => (
        <Button
          key={next}
          look={next === 'cancel' ? 'word' : 'plain'}
          disabled={step.isPending}
          onClick={() => step.mutate(next)}
        >
          {w.orders.steps[next]}
        </Button>
      ))}
    </div>
  )
}

function Sum({ order }: { order: Order }) {
  return (
    <table className="mt-2 w-full">
      <tbody>
        <tr>
          <th scope="row" className="py-0.5 text-left font-normal">
            {w.orders.goods}
          </th>
          <td className="text-right tabular-nums">{order.goods}</td>
        </tr>
        {order.sum.map((part) => (
          <tr key={part.words} className="text-quiet">
            <th scope="row" className="py-0.5 text-left font-normal">
              {part.words}
            </th>
            <td className="text-right tabular-nums">{part.amount}</td>
          </tr>
        ))}
        <tr className="text-lead font-semibold">
          <th scope="row" className="pt-2 text-left">
            {w.orders.total}
          </th>
          <td className="pt-2 text-right tabular-nums">{order.total}</td>
        </tr>
      </tbody>
    </table>
  )
}

/** What is needed to print and to pack it. */
function Making({ order }: { order: Order }) {
  if (order.delivery === 'files') return null
  return (
    <div>
      <h3 className="text-small text-quiet">{w.orders.make}</h3>
      <p className="mt-1 flex flex-wrap gap-x-4 gap-y-2">
        <a href={`/api/orders/${order.id}/prints.zip`} download className={asPlain}>
          {w.orders.prints}
        </a>
        <a
          href={`/api/orders/${order.id}/packing-slip.pdf`}
          target="_blank"
          rel="noreferrer"
          className={asPlain}
        >
          {w.orders.slip}
        </a>
      </p>
    </div>
  )
}

/** Who ordered, where it goes, what they say, and what is noted. */
function About({ order }: { order: Order }) {
  return (
    <div className="grid min-w-0 content-start gap-x-10 gap-y-6 max-2xl:grid-cols-2 max-sm:grid-cols-1">
      <div>
        <h3 className="text-small text-quiet">{w.orders.delivery[order.delivery]}</h3>
        {order.forgotten ? (
          <p>{w.orders.nobody}</p>
        ) : order.address.length > 0 ? (
          <address className="not-italic">
            {order.address.map((line) => (
              <span key={line} className="block">
                {line}
              </span>
            ))}
          </address>
        ) : (
          <p>{order.name}</p>
        )}
        {order.email && (
          <p className="mt-1 truncate">
            <a
              href={`mailto:${order.email}`}
              className="underline decoration-strong-line decoration-1 underline-offset-4"
            >
              {order.email}
            </a>
          </p>
        )}
      </div>
      {order.message && (
        <div>
          <h3 className="text-small text-quiet">{w.orders.says}</h3>
          <blockquote className="mt-1 border-l-3 border-plum pl-3 whitespace-pre-line">
            {order.message}
          </blockquote>
        </div>
      )}
      <Making order={order} />
      <OrderOthers order={order} />
      <OrderNote order={order} />
      {!order.forgotten && <OrderLink order={order} />}
      <OrderForgetting order={order} />
    </div>
  )
}
