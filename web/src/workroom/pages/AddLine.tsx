import { Button } from '../../kit/Button'
import { w } from '../../words'
import { type BlockKind, kinds } from './blocks/blocks'

/** The line that adds a block: each kind is a word. */
export function AddLine({
  lead,
  inner = false,
  onAdd,
}: {
  lead: string
  /** Within what stands side by side, which holds no more of it. */
  inner?: boolean
  onAdd: (kind: BlockKind) => void
}) {
  return (
    <p className="settings flex flex-wrap items-baseline gap-x-3 gap-y-1 text-small">
      <span className="text-quiet">{lead}</span>
      {kinds
        .filter((kind) => !inner || kind !== 'beside')
        .map((kind) => (
          <Button key={kind} look="word" onClick={() => onAdd(kind)}>
            {w.blocks.kinds[kind]}
          </Button>
        ))}
    </p>
  )
}
