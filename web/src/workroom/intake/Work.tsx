import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useFigures } from '../shell/data'
import { bytes } from '../shell/format'
import { intakeOf } from './data'
import { EveryFile } from './EveryFile'
import { cancel, goOn, pause } from './queue'
import { useQueue } from './queueState'
import { Failures, Latest, TakeThem, tallyOf } from './Report'

/** The intake of this sitting at work: what is sent, what is made ready, what failed. */
export function Work({ intake }: { intake: string }) {
  const queue = useQueue()
  const figures = useFigures().data
  const [everyFile, setEveryFile] = useState(false)
  const detail = useQuery(intakeOf(intake)).data
  const toSend = queue.counts.queued + queue.counts.sending + queue.counts.broke
  const line = detail?.intake
  const left =
    toSend > 0
      ? queue.secondsLeft
      : line && line.waiting + line.unpacking > 0
        ? (figures?.secondsLeft ?? null)
        : null
  const notSent = queue.items.filter((i) => i.state === 'refused' && i.sent === 0)
  return (
    <section className="mt-7" aria-label={w.intake.title}>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <p className="font-display text-lead font-semibold" data-testid="tally">
          {(line && tallyOf(line, toSend)) || w.intake.tally.sending(toSend)}
        </p>
        <span className="text-small text-quiet tabular-nums">
          {w.intake.sent(bytes(queue.sent), bytes(queue.all))}
          {left !== null && left > 0 && `, ${w.intake.left(w.time(left))}`}
        </span>
        <span className="ml-auto flex gap-5">
          {toSend > 0 && (
            <>
              <Button look="word" onClick={() => (queue.paused ? void goOn() : pause())}>
                {queue.paused ? w.intake.goOn : w.intake.pause}
              </Button>
              <Button look="word" onClick={cancel}>
                {w.intake.cancel}
              </Button>
            </>
          )}
          {line && line.ready + line.waiting > 0 && <TakeThem intake={intake} />}
        </span>
      </div>
      <progress
        className="intake-bar mt-2"
        value={queue.sent}
        max={Math.max(1, queue.all)}
        aria-label={w.intake.sent(bytes(queue.sent), bytes(queue.all))}
      />
      <div className="mt-1.5 text-small text-quiet" aria-live="polite">
        {queue.paused && <p>{w.intake.paused}</p>}
        {queue.counts.broke > 0 && <p>{w.intake.lineBroke(queue.counts.broke)}</p>}
        {line && line.alreadyHere > 0 && <p>{w.intake.alreadyHere(line.alreadyHere)}</p>}
      </div>
      {detail && <Latest files={detail.latest} />}
      {detail && <Failures intake={intake} groups={detail.failures} />}
      {notSent.length > 0 && (
        <section className="mt-6">
          <h2 className="mb-1 text-lead">{w.intake.notSent}</h2>
          <ul>
            {notSent.slice(0, 50).map((i) => (
              <li key={i.key} className="border-t border-line py-1.5 text-small">
                <strong>{i.file.name}</strong> <span className="text-quiet">{i.reason}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <div className="mt-6">
        <Button look="word" aria-expanded={everyFile} onClick={() => setEveryFile(!everyFile)}>
          {w.intake.everyFile} ({w.count(queue.items.length)})
        </Button>
        {everyFile && <EveryFile items={queue.items} />}
      </div>
    </section>
  )
}
