import { Popover as Radix } from 'radix-ui'
import type { ReactNode } from 'react'

/** What floats beside the verb that opened it. */
export function Popover({
  open,
  onOpenChange,
  trigger,
  label,
  children,
  wide = false,
  onClosed,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
  trigger: ReactNode
  label: string
  children: ReactNode
  wide?: boolean
  /** Where to go on when it closes, instead of at what opened it; says whether it went anywhere. */
  onClosed?: () => boolean
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          align="start"
          sideOffset={8}
          collisionPadding={12}
          onCloseAutoFocus={(e) => {
            // Whoever went on to something else meanwhile stays there.
            const elsewhere = document.activeElement !== null && document.activeElement !== document.body
            if (onClosed?.() || elsewhere) e.preventDefault()
          }}
          className={`z-60 max-h-[var(--radix-popover-content-available-height)] overflow-y-auto ${wide ? 'w-96' : 'w-72'} rounded-control bg-raised p-4 text-body shadow-float outline-none`}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
