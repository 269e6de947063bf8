import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { type DragEvent, useEffect, useRef, useState } from 'react'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { bytes } from '../shell/format'
import { tellProblem } from '../shell/news'
import { refresh } from '../shell/refresh'
import { Heading } from '../shell/Station'
import { About } from './About'
import { bringIn } from './bringIn'
import { type Brought, fromDrop } from './brought'
import { intakeOf, intakes, nothingSaid, useSay } from './data'
import { EarlierIntakes } from './EarlierIntakes'
import { FileField } from './FileField'
import { isSending } from './queue'
import { forgetInterrupted, interrupted, useQueue } from './queueState'
import { Work } from './Work'

/** Bringing photos in: drop, see where they go, watch what comes of them. */
export function IntakeStation() {
  const client = useQueryClient()
  const [said, setSaid] = useState(nothingSaid)
  const [over, setOver] = useState(false)
  const files = useRef<HTMLInputElement>(null)
  const folder = useRef<HTMLInputElement>(null)
  const queue = useQueue()
  const stopped = interrupted()
  const at = queue.items.length > 0 ? queue.intake : null
  const list = useQuery({ ...intakes, refetchInterval: isSending() ? 4000 : false })
  const before = useQuery({ ...intakeOf(stopped?.intake ?? ''), enabled: stopped !== null }).data
  const current = useQuery({ ...intakeOf(at ?? ''), enabled: at !== null }).data
  const say = useSay(at)
  const limits = list.data?.limits
  // biome-ignore lint/correctness/useExhaustiveDependencies: read again when the last file is here.
  useEffect(() => refresh(client), [queue.counts.queued + queue.counts.sending === 0, client])

  const bring = (brought: Brought[]) =>
    bringIn(client, brought, said, before ? (stopped?.intake ?? null) : null).catch(tellProblem)
  function drop(e: DragEvent) {
    e.preventDefault()
    setOver(false)
    void fromDrop(e.dataTransfer).then(bring, tellProblem)
  }
  function change(next: typeof said) {
    setSaid(next)
    if (at) say.mutate(next)
  }

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the whole station takes what is dropped; the buttons do the same for keys.
    <div
      className="min-h-full px-[30px] pt-7 pb-16"
      onDragOver={(e) => {
        e.preventDefault()
        setOver(true)
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={drop}
    >
      <Heading
        title={w.intake.title}
        lead={
          limits &&
          w.intake.lead(
            bytes(limits.bytes),
            limits.megapixels,
            bytes(limits.soundBytes),
            bytes(limits.videoBytes),
            bytes(limits.documentBytes),
          )
        }
      />
      <div className={`mt-6 border-y py-6 ${over ? 'border-plum bg-plum-wash' : 'border-strong-line'}`}>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-3">
          <p className="font-display text-head font-semibold">{w.intake.drop}</p>
          <span className="text-quiet">{w.intake.or}</span>
          <Button look="next" onClick={() => files.current?.click()}>
            {w.intake.choose}
          </Button>
          <Button onClick={() => folder.current?.click()}>{w.intake.chooseFolder}</Button>
          <span className="text-small text-quiet">
            {w.intake.otherWays}{' '}
            <Link to="/workroom/intake/scanner" className="underline underline-offset-4 hover:text-ink">
              {w.intake.scanner}
            </Link>
            ,{' '}
            <Link to="/workroom/intake/folders" className="underline underline-offset-4 hover:text-ink">
              {w.intake.folders}
            </Link>
          </span>
          <FileField field={files} label={w.intake.choose} onBring={bring} />
          <FileField field={folder} label={w.intake.chooseFolder} onBring={bring} folder />
        </div>
        <div className="mt-4">
          <About said={current?.about ?? said} onSay={change} />
        </div>
      </div>
      {stopped && before && (
        <p className="mt-6 max-w-[44rem] border-l-[3px] border-plum pl-4">
          {w.intake.interrupted(before.intake.files, stopped.files)}{' '}
          <Button look="word" onClick={forgetInterrupted}>
            {w.intake.leaveIt}
          </Button>
        </p>
      )}
      {at && <Work intake={at} />}
      <EarlierIntakes intakes={(list.data?.intakes ?? []).filter((i) => i.id !== at)} />
    </div>
  )
}
