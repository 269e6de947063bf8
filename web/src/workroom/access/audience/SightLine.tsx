import type { ReactNode } from 'react'

/** Somebody or something, leader dots, and what is seen; why not, beneath it. */
export function SightLine({
  name,
  road,
  sees,
  said,
  why = [],
  see,
}: {
  name: string
  /** The name as a link to the thing. */
  road?: ReactNode
  sees: boolean
  said: string
  why?: readonly string[]
  /** What leads to the site as they have it. */
  see?: ReactNode
}) {
  return (
    <li className="flex items-baseline gap-x-5 border-t border-line py-2">
      <span className="min-w-0 flex-1">
        <span className="flex items-baseline">
          <span className={`min-w-0 truncate ${sees ? '' : 'text-quiet'}`} title={name}>
            {road ?? name}
          </span>
          <span
            aria-hidden
            className="mx-2 min-w-6 flex-1 translate-y-[-3px] border-b border-dotted border-strong-line"
          />
          <span className={`whitespace-nowrap ${sees ? 'font-semibold' : 'text-quiet'}`}>{said}</span>
        </span>
        <Why why={why} />
      </span>
      {see}
    </li>
  )
}

/** Why somebody does not see something, a sentence beneath the other. */
export function Why({ why }: { why: readonly string[] }) {
  return why.map((each) => (
    <span key={each} className="block text-small text-quiet">
      {each}
    </span>
  ))
}
