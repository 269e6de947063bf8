import type { Api } from '../../../api/client'
import { w } from '../../../words'
import { LookLevel, type Offered } from '../../themes/LookSentences'
import { nothing, saysSomething } from '../../themes/useTheme'
import type { Block, BlockKind } from './blocks'
import { Fold } from './Parts'

/** How it looks where a block stands. */
export type Around = {
  page: Api['Look']
  /** What comes of it in the block; none where nothing is otherwise there. */
  own: Api['Look'] | null
  /** What of that cannot be read well. */
  unreadable: readonly Api['Unreadable'][]
  /** The block stands on a ground, whose colours its words have. */
  grounded: boolean
}

const words: Offered = { says: ['words'], colours: ['text'] }
const none: Offered = { says: [], colours: [] }
const pictures: Offered = { says: ['words', 'photos'], colours: ['text', 'line'] }
/** What of the look is seen in blocks of each kind; what holds others has none of its own. */
const kinds: Readonly<Record<BlockKind, Offered>> = {
  heading: { says: ['headings'], colours: ['text'] },
  text: { says: ['headings', 'words'], colours: ['text'] },
  photos: { says: ['headings', 'words', 'choices', 'photos'], colours: ['text', 'accent', 'line'] },
  photo: pictures,
  video: pictures,
  sound: words,
  files: { says: ['words'], colours: ['text', 'line'] },
  index: { says: ['headings', 'words', 'photos'], colours: ['text', 'line'] },
  contact: words,
  button: { says: ['words', 'choices'], colours: ['accent'] },
  divider: { says: [], colours: ['line'] },
  beside: none,
}

/** What of the look is seen in a block as it is set. */
function offeredTo(block: Block): Offered {
  const offered = kinds[block.kind]
  if (block.kind === 'divider' && !block.line) return none
  if (block.kind === 'photos' && block.layout.kind !== 'list')
    return { ...offered, says: offered.says.filter((part) => part !== 'headings') }
  return offered
}

/** What of the look is otherwise in one block than on its page. */
export function LookFold({
  block,
  around,
  onSay,
}: {
  block: Block
  around: Around
  onSay: (look: Api['LookChange']) => void
}) {
  const { look } = block.frame
  const isSaid = saysSomething(look)
  const offered = offeredTo(block)
  if (offered === none && !isSaid) return null
  return (
    <Fold name={w.themes.block.name} changed={isSaid}>
      <p className="text-quiet">{w.themes.block.reaches}</p>
      <LookLevel
        level="block"
        change={look}
        look={around.own ?? around.page}
        unreadable={around.unreadable}
        isSaid={isSaid}
        offered={offered}
        grounded={around.grounded}
        onSay={(next) => onSay({ ...look, ...next })}
        onNothing={() => onSay(nothing)}
      />
    </Fold>
  )
}
