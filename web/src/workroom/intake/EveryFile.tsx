import { useVirtualizer } from '@tanstack/react-virtual'
import { useRef } from 'react'
import { w } from '../../words'
import { bytes } from '../shell/format'
import type { Sending } from './queueState'

const row = 26

/** Every file of the queue with where it stands; however many there are, only those in view are in the document. */
export function EveryFile({ items }: { items: readonly Sending[] }) {
  const box = useRef<HTMLDivElement>(null)
  const rows = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: () => row,
    overscan: 12,
  })
  return (
    <section
      ref={box}
      aria-label={w.intake.everyFile}
      className="mt-3 h-[22rem] overflow-y-auto border-y border-line"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls must be reached by keys to be scrolled.
      tabIndex={0}
    >
      <ul className="relative" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map((v) => {
          const item = items[v.index]
          if (!item) return null
          return (
            <li
              key={item.key}
              className="absolute inset-x-0 grid grid-cols-[minmax(0,1fr)_6rem_7rem] items-center gap-x-4 border-b border-line pr-3 text-small"
              style={{ height: row, top: v.start }}
            >
              <span className="truncate">
                {item.path && <span className="text-quiet">{item.path}/</span>}
                {item.file.name}
              </span>
              <span className="text-right text-quiet tabular-nums">{bytes(item.file.size)}</span>
              <span className="text-right tabular-nums">
                {item.state === 'sending'
                  ? `${Math.round((100 * item.sent) / Math.max(1, item.file.size))} %`
                  : w.intake.states[item.state]}
              </span>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
