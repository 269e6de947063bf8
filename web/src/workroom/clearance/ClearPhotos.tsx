import { type ReactNode, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { hand } from '../shell/hand'
import { tellDone } from '../shell/news'
import { ClearForm, type Consent } from './ClearForm'

const nothing: Consent = { says: 'cleared', until: '', by: '' }

function useClear(onDone: () => void) {
  return useAct(
    async ({ reach, next }: { reach: Api['Reach'] | null; next: Consent }) =>
      body(
        api.POST('/api/clearance/photos', {
          body: {
            ...(reach ?? (await hand.reach())),
            said: next.says,
            by: next.by,
            ...(next.until && { until: next.until }),
          },
        }),
        w.errors.away,
      ),
    ({ done, refused }, { next }) => {
      onDone()
      const { cleared, notCleared, tookBack, refusedAll } = w.clearance
      const text = (next.says === 'cleared' ? cleared : next.says ? notCleared : tookBack)(done.photos)
      tellDone(next.says !== 'not_cleared' && refused > 0 ? `${text} ${refusedAll(refused)}` : text, done)
    },
  )
}

function ClearPopover({
  open,
  onOpenChange,
  trigger,
  now,
  reach,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  trigger: ReactNode
  now: Consent
  reach: Api['Reach'] | null
}) {
  const clear = useClear(() => onOpenChange(false))
  return (
    <Popover open={open} onOpenChange={onOpenChange} label={w.clearance.ofPhoto} trigger={trigger}>
      <ClearForm
        now={now}
        yes="cleared"
        choices={[
          ['cleared', w.clearance.clear],
          ['not_cleared', reach ? w.clearance.notClear : w.clearance.notClearMany],
          ['', w.clearance.takeBack],
        ]}
        verb={w.clearance.doIt}
        onWrite={(next) => clear.mutate({ reach, next })}
        pending={clear.isPending}
      />
    </Popover>
  )
}

/** Says of all in hand whether they are cleared. */
export function ClearThem(state: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <ClearPopover
      {...state}
      now={nothing}
      reach={null}
      trigger={
        <Button look="word" hint="P">
          {w.clearance.verb}
        </Button>
      }
    />
  )
}

/** The sentence of a photo's clearance, pressed to say something else. */
export function PhotoClearance({ plate }: { plate: Api['Plate'] }) {
  const [open, setOpen] = useState(false)
  const { sentence, said, by, until } = plate.clearance
  return (
    <ClearPopover
      open={open}
      onOpenChange={setOpen}
      now={said === '' ? nothing : { says: said === 'ended' ? 'cleared' : said, by, until: until ?? '' }}
      reach={{ photos: [plate.id] }}
      trigger={
        <button
          type="button"
          className="min-h-6 text-left underline decoration-strong-line decoration-1 underline-offset-4 hover:decoration-ink"
        >
          {sentence}
        </button>
      }
    />
  )
}
