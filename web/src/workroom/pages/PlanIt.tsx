import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'
import type { PageDraft } from './usePageDraft'

const away = w.errors.away

/** A time in this browser's zone, as a field of a date and a time has it. */
function local(at: Date) {
  const shifted = new Date(at.getTime() - at.getTimezoneOffset() * 60_000)
  return shifted.toISOString().slice(0, 16)
}

/** Plans the draft, as it is now, to be published at a time; says what is planned, and calls it off. */
export function PlanIt({ page, draft }: { page: Api['OpenedPage']; draft: PageDraft }) {
  const [open, setOpen] = useState(false)
  const here = { path: { page: page.id } }
  const plan = useAct(
    async (at: string) => {
      if (!(await draft.flush())) throw new Error(w.plate.unsaved)
      const params = { ...here, header: { 'If-Match': draft.version() } }
      return body(
        api.PUT('/api/pages/{page}/plan', { params, body: { at: new Date(at).toISOString() } }),
        away,
      )
    },
    ({ done, page: now }) => {
      setOpen(false)
      if (now.plannedAt) tellDone(w.versions.plannedFor(new Date(now.plannedAt)), done)
    },
  )
  const callOff = useAct(
    () => body(api.DELETE('/api/pages/{page}/plan', { params: here }), away),
    ({ done }) => tellDone(w.versions.calledOff, done),
  )
  if (page.plannedAt)
    return (
      <span className="text-small">
        {w.versions.plannedFor(new Date(page.plannedAt))}{' '}
        <Button look="word" onClick={() => callOff.mutate(undefined)}>
          {w.versions.callOff}
        </Button>
      </span>
    )
  const tomorrow = new Date(Date.now() + 86_400_000)
  tomorrow.setHours(8, 0, 0, 0)
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.versions.plan}
      trigger={<Button look="word">{w.versions.plan}</Button>}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault()
          const at = new FormData(e.currentTarget).get('at')
          if (typeof at === 'string' && at) plan.mutate(at)
        }}
      >
        <label className="grid gap-1.5">
          {w.versions.at}
          <input
            type="datetime-local"
            name="at"
            required
            min={local(new Date())}
            defaultValue={local(tomorrow)}
            className="border-b border-strong-line bg-transparent pb-1 outline-none focus:border-plum"
          />
        </label>
        <p className="mt-2 text-small text-quiet">{w.versions.asItIs}</p>
        <p className="mt-3">
          <Button look="next" type="submit" disabled={plan.isPending}>
            {w.versions.planIt}
          </Button>
        </p>
      </form>
    </Popover>
  )
}
