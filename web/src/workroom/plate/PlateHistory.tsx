import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useUndo } from '../shell/data'
import { moment } from '../shell/format'

const longest = 160

/** What happened to one photo, the latest first: read when one asks for it. */
export function PlateHistory({ photo }: { photo: string }) {
  const [open, setOpen] = useState(false)
  const undo = useUndo()
  const events = useQuery({
    queryKey: ['history', photo],
    queryFn: async () =>
      (await body(api.GET('/api/photos/{photo}/history', { params: { path: { photo } } }), w.errors.away))
        .events,
    enabled: open,
  }).data
  return (
    <section className="mt-3.5 border-t border-line pt-3.5" aria-label={w.history.ofPhoto}>
      <Button look="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        {w.history.ofPhoto}
      </Button>
      {open && events && (
        <ol className="mt-2 grid gap-2.5">
          {events.length === 0 && <li className="text-quiet">{w.history.nothing}</li>}
          {events.map((e) => (
            <li key={e.id} className="leading-[1.45]">
              <p className={e.takenBack ? 'text-quiet line-through' : ''}>{e.sentence}</p>
              {e.changes.map((c) => (
                <Was key={c.field} change={c} />
              ))}
              <p className="flex gap-3 text-quiet">
                <span>
                  {e.who}, {moment(e.made)}
                </span>
                {e.takenBack ? (
                  <span>{w.history.takenBack}</span>
                ) : (
                  e.canUndo && (
                    <Button
                      look="word"
                      aria-label={w.history.undoOf(e.sentence)}
                      disabled={undo.isPending}
                      onClick={() => undo.mutate(e.id)}
                    >
                      {w.history.undo}
                    </Button>
                  )
                )}
              </p>
            </li>
          ))}
        </ol>
      )}
    </section>
  )
}

/** What a word was before. */
function Was({ change }: { change: Api['FieldChange'] }) {
  const text = change.before.length > longest ? `${change.before.slice(0, longest)}…` : change.before
  return (
    <p className="text-quiet">
      {change.field} {text ? w.history.from(text) : w.history.wasEmpty}
    </p>
  )
}
