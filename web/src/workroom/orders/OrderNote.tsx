import { useEffect, useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { WrittenLines } from '../../kit/WrittenLines'
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
      <WrittenLines
        label={w.orders.note}
        value={note}
        rows={3}
        most={2000}
        hint={w.orders.noteHint}
        onSay={setNote}
      />
      {note.trim() !== order.note && (
        <Button className="mt-2" disabled={keep.isPending} onClick={() => keep.mutate(note)}>
          {w.orders.keep}
        </Button>
      )}
    </div>
  )
}
