import type { ReactNode } from 'react'
import { ShowMore } from './ShowMore'

/** What there is down the left, with more at its foot, and one of it beside. */
export function ListAndOne({
  label,
  of,
  more,
  rows,
  children,
}: {
  label: string
  of: Parameters<typeof ShowMore>[0]['of']
  more: string
  rows: ReactNode
  children: ReactNode
}) {
  return (
    <div className="mt-5 grid grid-cols-[19rem_minmax(0,1fr)] gap-x-12 gap-y-8 max-lg:grid-cols-1">
      <nav aria-label={label}>
        <ul className="border-t border-line">{rows}</ul>
        <ShowMore of={of}>{more}</ShowMore>
      </nav>
      {children}
    </div>
  )
}

/** One of what there is: pressed, it stands beside. */
export function OpenRow({
  label,
  isOpen,
  onOpen,
  children,
}: {
  label: string
  isOpen: boolean
  onOpen: () => void
  children: ReactNode
}) {
  return (
    <li className="border-b border-line">
      <button
        type="button"
        aria-current={isOpen || undefined}
        aria-label={label}
        className={`grid w-full gap-0.5 border-l-3 py-2.5 pl-3 text-left ${isOpen ? 'border-plum' : 'border-transparent hover:border-strong-line'}`}
        onClick={onOpen}
      >
        {children}
      </button>
    </li>
  )
}
