import { Dialog as Radix } from 'radix-ui'
import type { ReactNode } from 'react'

/** A dialog, for what cannot be taken back and for lists to look at. */
export function Dialog({
  open,
  onClose,
  title,
  children,
}: {
  open: boolean
  onClose: () => void
  title: string
  children: ReactNode
}) {
  return (
    <Radix.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-[oklch(0_0_0/0.35)]" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed top-[16vh] left-1/2 z-50 max-h-[70vh] w-[min(30rem,92vw)] -translate-x-1/2 overflow-auto rounded-control bg-raised p-7 shadow-float outline-none"
        >
          <Radix.Title className="text-head">{title}</Radix.Title>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
