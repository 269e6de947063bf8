import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { moment } from '../shell/format'
import { OpenRow } from '../shell/ListAndOne'
import type { OrderLine } from './data'

/** Who ordered, for how much, and where that stands. */
export function OrderRow({
  order,
  isOpen,
  onOpen,
}: {
  order: OrderLine
  isOpen: boolean
  onOpen: () => void
}) {
  const { number, total, standing, pictures } = order
  const name = order.name || w.orders.nobody
  return (
    <OpenRow label={w.orders.open(number, name)} isOpen={isOpen} onOpen={onOpen}>
      <span className="flex min-w-0 items-baseline gap-2">
        <span className={`min-w-0 truncate ${isOpen ? 'font-semibold' : ''}`}>{name}</span>
        <span className="ml-auto whitespace-nowrap tabular-nums">{total}</span>
      </span>
      <span className="flex items-baseline justify-between gap-2 text-small text-quiet">
        <span className={order.isPaid || order.state === 'cancelled' ? '' : 'font-semibold text-plum'}>
          {standing}
        </span>
        <span className="whitespace-nowrap">{moment(order.at)}</span>
      </span>
      <span className="mt-1 flex h-9 items-end gap-1 overflow-hidden">
        {pictures.map((picture) => (
          <img
            key={picture}
            src={rendition(picture, 480)}
            alt=""
            loading="lazy"
            className="h-9 w-auto max-w-[5rem] object-cover"
          />
        ))}
        <span className="ml-1 text-small whitespace-nowrap text-quiet">{w.orders.things(order.things)}</span>
      </span>
    </OpenRow>
  )
}
