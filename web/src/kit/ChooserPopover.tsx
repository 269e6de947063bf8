import { type ReactNode, useState } from 'react'
import { type Choice, Chooser } from './Chooser'
import { Popover } from './Popover'

/** A verb that lets one choose among names, or make a new one; it closes when one has. */
export function ChooserPopover({
  trigger,
  label,
  choices,
  onType,
  onChoose,
  onNew,
  newLabel,
}: {
  trigger: ReactNode
  label: string
  /** Of what is typed, where that narrows them elsewhere. */
  choices: readonly Choice[]
  onType?: (text: string) => void
  onChoose: (choice: Choice) => void
  onNew?: (name: string) => void
  newLabel?: (name: string) => string
}) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  function type(text: string) {
    setTyped(text)
    onType?.(text)
  }
  function close<T>(then: (chosen: T) => void) {
    return (chosen: T) => {
      type('')
      setOpen(false)
      then(chosen)
    }
  }
  return (
    <Popover
      open={open}
      onOpenChange={(now) => {
        type('')
        setOpen(now)
      }}
      label={label}
      trigger={trigger}
    >
      <Chooser
        label={label}
        typed={typed}
        onType={type}
        choices={choices}
        onChoose={close(onChoose)}
        {...(onNew && { onNew: close(onNew) })}
        {...(newLabel && { newLabel })}
      />
    </Popover>
  )
}
