import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tell } from '../shell/news'
import { Steps } from './Steps'
import { asRead, firstHour, sayFirstHour } from './useFront'

export type Step = Api['FirstStep']

/** The short path from a new site to an open one: what is done as lines, what comes next open among them. */
export function FirstHour() {
  // What others do, and photos that arrive, move it on.
  const path = useQuery({
    ...firstHour,
    refetchInterval: (q) => (q.state.data?.isOn ? 10_000 : false),
  }).data
  const site = useQuery({ ...asRead, enabled: path?.isOn === true }).data
  const client = useQueryClient()
  const [chosen, setChosen] = useState<Step | null>(null)
  const away = useAct(
    () => sayFirstHour(false),
    (now) => {
      client.setQueryData(firstHour.queryKey, now)
      tell({ text: w.opening.hour.gone })
    },
  )
  if (!path?.isOn || !site) return null
  const { steps, next } = path.path
  const at = chosen ?? next
  return (
    <section
      aria-label={w.opening.hour.title}
      className="mt-6 max-w-[46rem] border-t border-strong-line pt-4"
    >
      <header className="flex flex-wrap items-baseline justify-between gap-x-6 gap-y-1">
        <h2 className="font-display text-head font-semibold">
          {next === null ? w.opening.hour.done : w.opening.hour.title}
        </h2>
        <Button
          look={next === null ? 'plain' : 'word'}
          className={next === null ? '' : 'text-small'}
          onClick={() => away.mutate(undefined)}
        >
          {w.opening.hour.away}
        </Button>
      </header>
      <p className="mt-1 text-quiet">{next === null ? w.opening.hour.doneLead : w.opening.hour.lead}</p>
      <Steps
        steps={steps}
        at={at}
        next={next}
        facts={path.site}
        site={site}
        onOpen={(step) => setChosen(step === at ? null : step)}
        onStay={setChosen}
        onTaken={() => setChosen(null)}
      />
    </section>
  )
}
