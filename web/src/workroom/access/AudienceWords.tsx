import { type ReactNode, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { AudienceDialog } from './audience/AudienceDialog'
import type { AudienceOf } from './audience/data'
import { ViewersDialog } from './audience/ViewersDialog'

/** Who can see a thing, in a sentence; pressed, it says why, and lets one change it. */
export function AudienceWords({
  line,
  of,
  children,
}: {
  line: Api['AudienceLine']
  of: AudienceOf
  children?: ReactNode
}) {
  const [open, setOpen] = useState(false)
  const [asked, setAsked] = useState<'change' | 'names' | null>(null)
  function ask(what: 'change' | 'names') {
    setOpen(false)
    setAsked(what)
  }
  return (
    <>
      <Popover
        wide
        open={open}
        onOpenChange={setOpen}
        label={w.audience.why}
        trigger={
          <button
            type="button"
            className={`min-h-6 text-left underline underline-offset-4 ${line.everyone ? 'decoration-strong-line decoration-1 hover:decoration-ink' : 'text-plum decoration-plum decoration-1 hover:decoration-2'}`}
          >
            {line.sentence}
          </button>
        }
      >
        <h2 className="text-body">{w.audience.why}</h2>
        <ol className="mt-2">
          {line.why.map((each, i) => (
            <li key={each} className="grid grid-cols-[1.5rem_minmax(0,1fr)] border-t border-line py-2">
              <span aria-hidden className="text-small font-semibold text-quiet tabular-nums">
                {i + 1}
              </span>
              {each}
            </li>
          ))}
        </ol>
        <p className="my-2 flex flex-wrap items-baseline gap-x-4 gap-y-2">
          <Button look="next" onClick={() => ask('change')}>
            {w.audience.change}
          </Button>
          <Button look="word" onClick={() => ask('names')}>
            {w.viewers.byName}
          </Button>
        </p>
        {children}
      </Popover>
      {asked === 'change' && <AudienceDialog of={of} onClose={() => setAsked(null)} />}
      {asked === 'names' && <ViewersDialog of={of} onClose={() => setAsked(null)} />}
    </>
  )
}
