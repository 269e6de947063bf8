import type { QueryClient } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'

export type Order = Api['OrderSeen']
export type OrderLine = Api['OrderLine']
export type Which = 'open' | 'unpaid' | 'all'
export type Step = Order['next'][number]

export const keyOf = (order: string) => ['orders', 'one', order]

/** Where a write of an order is sent, over the version that is known by then: what was pressed before has changed it. */
export const pathOf = (client: QueryClient, { id, version }: Order) => ({
  path: { order: id },
  header: { 'If-Match': client.getQueryData<Order>(keyOf(id))?.version ?? version },
})

export const readOrder = (order: string) =>
  body(api.GET('/api/orders/{order}', { params: { path: { order } } }), w.errors.away)

export const readOrders = (which: Which, q: string, behind: string | undefined) =>
  body(
    api.GET('/api/orders', { params: { query: { which, ...(q && { q }), ...(behind && { behind }) } } }),
    w.errors.away,
  )
