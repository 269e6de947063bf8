import { useEffect, useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import type { Order } from './data'
import { useOrderAct } from './useOrderAct'

/** What those who sell note of an order, for themselves. */
export function OrderNote({ order }: { order: Order }) {
  const [note, setNote] = useState(order.note)
  useEffect(() => setNote(order.note), [order.note])
  const keep = useOrderAct(
    order,
    (params, text: string) =>
      body(api.PUT('/api/orders/{order}/note', { params, body: { note: text } }), w.errors.away),
    () => w.orders.noted,
  )
  return (
    <div>
      <label className="block">
        <span className="block text-small text-quiet">{w.orders.note}</span>
        <textarea
          value={note}
          rows={3}
          maxLength={2000}
          placeholder={w.orders.noteHint}
          onChange={(e) => setNote(e.target.value)}
          className="mt-1 w-full resize-y border-b border-strong-line bg-transparent py-1 outline-none placeholder:text-quiet focus:border-plum"
        />
      </label>
      {note.trim() !== order.note && (
        <Button className="mt-2" disabled={keep.isPending} onClick={() => keep.mutate(note)}>
          {w.orders.keep}
        </Button>
      )}
    </div>
  )
}
