import { useQueryClient } from '@tanstack/react-query'
import { type Api, ApiProblem } from '../../api/client'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tell, tellDone } from '../shell/news'
import { keyOf, type Order, pathOf } from './data'

/**
 * Does something with an order: what is pressed is done in turn, each over the version that is known by then.
 * Where somebody else has changed the order since, it is read anew, and that is said. What is final is not offered to be taken back.
 */
export function useOrderAct<In>(
  order: Order,
  send: (params: ReturnType<typeof pathOf>, input: In) => Promise<Api['OrderKept']>,
  says: (input: In) => string,
  isFinal = false,
) {
  const client = useQueryClient()
  return useAct(
    async (input: In) => {
      try {
        return await send(pathOf(client, order), input)
      } catch (problem) {
        // What was refused may have left its mark on the order as well.
        await client.invalidateQueries({ queryKey: ['orders'] })
        if (problem instanceof ApiProblem && problem.kind === 'stale') return null
        throw problem
      }
    },
    (kept, input) => {
      if (!kept) return tell({ text: w.orders.stale })
      client.setQueryData(keyOf(order.id), kept.order)
      if (isFinal) tell({ text: says(input) })
      else tellDone(says(input), kept.done)
    },
    `order ${order.id}`,
  )
}
