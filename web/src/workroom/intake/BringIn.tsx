import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { tellProblem } from '../shell/news'
import { refresh } from '../shell/refresh'
import { bringIn } from './bringIn'
import { intakeBegun, nothingSaid } from './data'
import { FileField } from './FileField'
import { useQueue } from './queueState'

/** Brings files in from where one is, as the intake does, and says how far they are. */
export function BringIn({ words, onIntake }: { words: string; onIntake?: (intake: string) => void }) {
  const client = useQueryClient()
  const field = useRef<HTMLInputElement>(null)
  const [into, setInto] = useState<string>()
  const { intake, counts } = useQueue()
  const line = useQuery({ ...intakeBegun(into ?? ''), enabled: into !== undefined }).data?.intake
  const mine = into !== undefined && into === intake
  const left = (mine ? counts.queued + counts.sending : 0) + (line?.waiting ?? 0)
  const refused = (mine ? counts.refused : 0) + (line?.failed ?? 0)
  // What has come is there for who looks for it, one by one.
  // biome-ignore lint/correctness/useExhaustiveDependencies: read again whenever there are fewer to come.
  useEffect(() => {
    if (into) refresh(client)
  }, [left, into, client])
  return (
    <>
      <Button look="word" onClick={() => field.current?.click()}>
        {words}
      </Button>
      <FileField
        field={field}
        label={words}
        onBring={(brought) =>
          void bringIn(client, brought, nothingSaid).then((made) => {
            if (!made) return
            setInto(made)
            onIntake?.(made)
          }, tellProblem)
        }
      />
      <span role="status" className="text-quiet">
        {into && (left > 0 ? w.intake.stillComing(left) : refused > 0 ? w.intake.someRefused : '')}
      </span>
    </>
  )
}
