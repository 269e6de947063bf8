import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useParams } from '@tanstack/react-router'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { tellDone } from '../shell/news'
import { Heading } from '../shell/Station'
import { About } from './About'
import { intakeOf, useSay } from './data'
import { Failures, Latest, TakeThem, tallyOf } from './Report'

/** An intake of before: what holds for it, what came of it, what failed; it can be taken back whole. */
export function OneIntake() {
  const { intake } = useParams({ from: '/workroom/intake/$intake' })
  const detail = useQuery(intakeOf(intake))
  const say = useSay(intake)
  if (!detail.data) return detail.error ? <p className="p-10">{detail.error.message}</p> : null
  const { intake: line, about, failures, latest } = detail.data
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={moment(line.begun)}
        lead={`${w.intake.begun(line.begunBy, moment(line.begun))}${line.label ? ` ${w.intake.from(line.label)}` : ''}`}
        right={!line.takenBack && <TakeBack intake={intake} />}
      />
      <div className="mt-6 border-y border-line py-5">
        <About said={about} onSay={(next) => say.mutate(next)} />
      </div>
      <div className="mt-7 flex flex-wrap items-baseline gap-x-6">
        <p className="font-display text-lead font-semibold">
          {line.takenBack ? w.intake.takenBack : tallyOf(line) || w.intake.nothingYet}
        </p>
        <span className="ml-auto flex gap-5">
          {line.ready + line.waiting > 0 && <TakeThem intake={intake} />}
        </span>
      </div>
      <Latest files={latest} />
      <Failures intake={intake} groups={failures} />
    </div>
  )
}

/** Says what taking back would do before it is done; afterwards it can be undone. */
function TakeBack({ intake }: { intake: string }) {
  const [open, setOpen] = useState(false)
  const client = useQueryClient()
  const params = { params: { path: { intake } } }
  const forecast = useQuery({
    queryKey: ['taking-back', intake],
    queryFn: () => body(api.GET('/api/intakes/{intake}/taking-back', params), w.errors.away),
    enabled: open,
    staleTime: 0,
  }).data
  const read = () => client.invalidateQueries({ queryKey: ['intake', intake] })
  const act = useAct(
    () => body(api.POST('/api/intakes/{intake}/taking-back', params), w.errors.away),
    ({ taken, done }) => {
      setOpen(false)
      void read()
      tellDone(w.intake.tookBack(taken.binned, taken.files, taken.kept), done)
    },
  )
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.intake.takeBack}
      trigger={<Button>{w.intake.takeBack}</Button>}
    >
      {forecast && (
        <>
          <p>{w.intake.takeBackSays(forecast.binned, forecast.files, forecast.kept)}</p>
          <div className="mt-3 flex flex-wrap gap-3">
            <Button look="next" onClick={() => act.mutate(undefined)}>
              {w.intake.takeBackYes(forecast.binned, forecast.files)}
            </Button>
            <Button look="word" onClick={() => setOpen(false)}>
              {w.intake.keepIt}
            </Button>
          </div>
        </>
      )}
    </Popover>
  )
}
