import { useState } from 'react'
import { api, body } from '../../api/client'
import { AskDialog } from '../../kit/AskDialog'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useAct, useSession } from '../shell/data'

/** For how long records are kept; where that forgets some, it asks first. */
export function Kept({ days, offered }: { days: number; offered: readonly number[] }) {
  const owner = useSession().data?.role === 'owner'
  const [asking, setAsking] = useState<number | null>(null)
  const say = useAct((next: number) =>
    body(api.PUT('/api/records/kept', { body: { days: next } }), w.errors.away),
  )
  if (!owner) return <span className="text-quiet">{w.records.kept(days)}</span>
  return (
    <>
      <WordSelect
        label={w.records.keptLabel}
        value={String(days)}
        choices={offered.map((choice) => [String(choice), w.records.kept(choice)] as const)}
        onChoose={(choice) => {
          const next = Number(choice)
          if (next !== 0 && (next >= days || days === 0)) say.mutate(next)
          else if (next !== days) setAsking(next)
        }}
      />
      <AskDialog
        open={asking !== null}
        title={w.records.keptAsk}
        text={[w.records.keptText(asking ?? 0)]}
        say={w.records.keptSay}
        not={w.records.keptNot}
        onSay={() => asking !== null && say.mutate(asking)}
        onClose={() => setAsking(null)}
      />
    </>
  )
}
