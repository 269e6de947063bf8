import type { ReactNode } from 'react'

/** A station's heading with the line beneath it and what stands at its right. */
export function Heading({ title, lead, right }: { title: ReactNode; lead?: ReactNode; right?: ReactNode }) {
  return (
    <header className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2">
      <div className="min-w-0">
        <h1 className="text-title">{title}</h1>
        {lead && <p className="mt-1.5 text-quiet">{lead}</p>}
      </div>
      {right}
    </header>
  )
}

/** What an empty place says: what to do first. */
export function Empty({ title, lead, children }: { title: string; lead?: string; children?: ReactNode }) {
  return (
    <div className="max-w-[34rem] py-14">
      <p className="font-display text-head font-semibold">{title}</p>
      {lead && <p className="mt-2 mb-5 text-quiet">{lead}</p>}
      {children}
    </div>
  )
}
