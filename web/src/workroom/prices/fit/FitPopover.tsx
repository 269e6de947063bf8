import { type ReactNode, useState } from 'react'
import { Popover } from '../../../kit/Popover'

/** What floats beside a cell of the fit list, and closes when it has done what it offers. */
export function FitPopover({
  label,
  trigger,
  wide = false,
  startsOpen = false,
  children,
}: {
  label: string
  trigger: ReactNode
  wide?: boolean
  startsOpen?: boolean
  children: (close: () => void) => ReactNode
}) {
  const [open, setOpen] = useState(startsOpen)
  return (
    <Popover open={open} onOpenChange={setOpen} label={label} trigger={trigger} wide={wide}>
      {children(() => setOpen(false))}
    </Popover>
  )
}
