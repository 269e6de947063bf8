import { Button } from './Button'
import { Dialog } from './Dialog'

/** Asks once more before something that cannot be taken back. */
export function AskDialog({
  open,
  title,
  text,
  say,
  not,
  onSay,
  onClose,
}: {
  open: boolean
  title: string
  /** What becomes of it, a paragraph each. */
  text: readonly string[]
  /** The verb that does it, and the one that leaves it. */
  say: string
  not: string
  onSay: () => void
  onClose: () => void
}) {
  return (
    <Dialog open={open} onClose={onClose} title={title}>
      {text.map((paragraph) => (
        <p key={paragraph} className="mt-3">
          {paragraph}
        </p>
      ))}
      <p className="mt-6 flex items-baseline gap-5">
        <Button
          look="next"
          onClick={() => {
            onSay()
            onClose()
          }}
        >
          {say}
        </Button>
        <Button look="word" onClick={onClose}>
          {not}
        </Button>
      </p>
    </Dialog>
  )
}
