import { Button } from '../../kit/Button'
import { w } from '../../words'

/** What can be done where somebody else has written meanwhile. */
export function StaleVerbs({ onReload, onOverwrite }: { onReload: () => void; onOverwrite: () => void }) {
  return (
    <span className="flex gap-4 text-small">
      <Button look="word" onClick={onReload}>
        {w.menu.reload}
      </Button>
      <Button look="word" onClick={onOverwrite}>
        {w.menu.overwrite}
      </Button>
    </span>
  )
}
