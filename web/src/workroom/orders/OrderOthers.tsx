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
    <div>
      <h3 className="text-small text-quiet">{w.orders.others(count)}</h3>
      <ul>
        {latest.map((other) => (
          <li key={other.id} className="flex items-baseline justify-between gap-x-3">
            <Link
              to="/workroom/orders"
              search={(now) => ({ ...now, order: other.id })}
              className={asWord}
              aria-label={w.orders.open(other.number, moment(other.at))}
            >
              {moment(other.at)}
            </Link>
            <span className="min-w-0 truncate text-small text-quiet">{other.standing}</span>
            <span className="whitespace-nowrap tabular-nums">{other.total}</span>
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
