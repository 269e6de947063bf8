import { api, body } from '../../api/client'
import { Button, KeyHint } from '../../kit/Button'
import { ChooserPopover } from '../../kit/ChooserPopover'
import { w } from '../../words'
import { useAct, usePages } from '../shell/data'
import { tellDone } from '../shell/news'
import type { Block } from './blocks/blocks'
import { KeptSettings } from './blocks/KeptSettings'

/** What can be done with a block as a whole. */
export function LineVerbs({
  block,
  page,
  onSay,
  onDouble,
  onOut,
  onRemove,
}: {
  block: Block
  /** The page it stands on. */
  page: string
  onSay: (block: Block) => void
  onDouble: () => void
  /** Out of what stands side by side. */
  onOut?: () => void
  onRemove: () => void
}) {
  const pages = usePages().data ?? []
  const copy = useAct(
    (to: { id: string; title: string }) =>
      body(
        api.POST('/api/pages/{page}/blocks', { params: { path: { page: to.id } }, body: { block } }),
        w.errors.away,
      ),
    (done, to) => tellDone(w.blocks.copied(to.title), done),
  )
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1 pt-0.5">
      <Button look="word" onClick={onDouble}>
        {w.blocks.double}
      </Button>
      <ChooserPopover
        label={w.blocks.copyWhich}
        trigger={<Button look="word">{w.blocks.copyTo}</Button>}
        choices={pages.filter((p) => p.id !== page).map((p) => ({ key: p.id, name: p.title }))}
        onChoose={(choice) => copy.mutate({ id: choice.key, title: choice.name })}
      />
      <KeptSettings block={block} onSay={onSay} />
      {onOut && (
        <Button look="word" onClick={onOut}>
          {w.blocks.out}
        </Button>
      )}
      <Button look="word" onClick={onRemove}>
        {w.blocks.remove}
        <KeyHint>Del</KeyHint>
      </Button>
    </p>
  )
}
