import { Link } from '@tanstack/react-router'
import { asWord } from '../../kit/Button'
import { w } from '../../words'
import { moment } from '../shell/format'
import type { Order } from './data'

/** What else was ordered by who ordered this. */
export function OrderOthers({ order }: { order: Order }) {
  const { latest, count } = order.others
  if (count === 0) return null
  return (
    <div className="min-w-0">
      <h3 className="text-small text-quiet">{w.orders.others(count)}</h3>
      <ul>
        {latest.map((other) => (
          <li key={other.id} className="min-w-0 py-1">
            <span className="flex items-baseline justify-between gap-x-3">
              <Link
                to="/workroom/orders"
                search={(now) => ({ ...now, order: other.id })}
                className={`${asWord} min-w-0`}
                aria-label={w.orders.open(other.number, order.name)}
              >
                {w.orders.number(other.number)}
              </Link>
              <span className="whitespace-nowrap tabular-nums">{other.total}</span>
            </span>
            <span className="flex justify-between gap-x-3 text-small text-quiet">
              <span className="min-w-0 truncate">{other.standing}</span>
              <span className="whitespace-nowrap">{moment(other.at)}</span>
            </span>
          </li>
        ))}
      </ul>
      {count > latest.length && (
        <Link
          to="/workroom/orders"
          search={{ which: 'all', q: order.email }}
          className={`${asWord} text-small`}
        >
          {w.orders.allOthers}
        </Link>
      )}
    </div>
  )
}
