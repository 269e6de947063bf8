import type { Api } from '../../../api/client'
import { w } from '../../../words'
import { LookLevel } from '../../themes/LookSentences'
import { nothing, saysSomething } from '../../themes/useTheme'
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

/** What of the look is otherwise in one block than on its page. */
export function LookFold({
  frame,
  around,
  onSay,
}: {
  frame: Api['BlockFrame']
  around: Around
  onSay: (look: Api['LookChange']) => void
}) {
  const isSaid = saysSomething(frame.look)
  return (
    <Fold name={w.themes.block.name} changed={isSaid}>
      <p className="text-quiet">{w.themes.block.reaches}</p>
      <LookLevel
        level="block"
        change={frame.look}
        look={around.own ?? around.page}
        unreadable={around.unreadable}
        isSaid={isSaid}
        grounded={around.grounded}
        onSay={(next) => onSay({ ...frame.look, ...next })}
        onNothing={() => onSay(nothing)}
      />
    </Fold>
  )
}
