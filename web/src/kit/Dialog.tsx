import { Dialog as Radix } from 'radix-ui'
import type { ReactNode } from 'react'

/** A dialog, for what cannot be taken back and for lists to look at. */
export function Dialog({
  open,
  onClose,
  title,
  wide = false,
  children,
}: {
  open: boolean
  onClose: () => void
  title: string
  /** For a list that is to be seen at one look. */
  wide?: boolean
  children: ReactNode
}) {
  return (
    <Radix.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-[oklch(0_0_0/0.35)]" />
        <Radix.Content
          aria-describedby={undefined}
          className={`fixed left-1/2 z-50 -translate-x-1/2 overflow-auto rounded-control bg-raised p-7 shadow-float outline-none ${wide ? 'top-[8vh] max-h-[84vh] w-[min(52rem,92vw)]' : 'top-[16vh] max-h-[70vh] w-[min(30rem,92vw)]'}`}
        >
          <Radix.Title className="text-head">{title}</Radix.Title>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
