import { type ReactNode, useState } from 'react'
import type { Api } from '../../api/client'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'

/** Who can see a thing, in a sentence; pressed, it says why. */
export function AudienceWords({ line, children }: { line: Api['AudienceLine']; children?: ReactNode }) {
  const [open, setOpen] = useState(false)
  return (
    <Popover
      wide
      open={open}
      onOpenChange={setOpen}
      label={w.audience.why}
      trigger={
        <button
          type="button"
          className="min-h-6 text-left underline decoration-strong-line decoration-1 underline-offset-4 hover:decoration-ink"
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
      {children}
    </Popover>
  )
}
