import { useState } from 'react'
import type { Api } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { ChooserPopover } from '../../../kit/ChooserPopover'
import { w } from '../../../words'
import { useCategories, useTags } from '../../shell/data'
import { Fold, Named, Says } from './Parts'

type Bar = Api['BarSettings']

/** By which categories and tags visitors can narrow the photos of a block, in their order. */
export function BarFold({ bar, onSay }: { bar: Bar; onSay: (bar: Bar) => void }) {
  const [typed, setTyped] = useState('')
  const categories = useCategories().data ?? []
  const known = useTags('').data ?? []
  const found = useTags(typed).data ?? []
  const none = bar.categories.length + bar.tags.length === 0
  return (
    <Fold name={w.bar.label} changed={!none} onUsual={() => onSay({ categories: [], tags: [] })}>
      <Says>
        <span>{none ? w.bar.none : w.bar.narrow}</span>
        <Ordered
          chosen={bar.categories}
          name={(id) => categories.find((c) => c.id === id)?.name ?? w.source.gone}
          onSay={(ids) => onSay({ ...bar, categories: ids })}
        />
        <ChooserPopover
          label={w.bar.whichCategory}
          trigger={<Button look="word">{w.bar.addCategory}</Button>}
          choices={categories
            .filter((c) => !bar.categories.includes(c.id))
            .map((c) => ({ key: c.id, name: c.name, depth: c.depth, note: w.count(c.photos) }))}
          onChoose={(c) => onSay({ ...bar, categories: [...bar.categories, c.key] })}
        />
        <Ordered
          chosen={bar.tags}
          name={(id) => known.find((t) => t.id === id)?.name ?? w.source.gone}
          onSay={(tags) => onSay({ ...bar, tags })}
        />
        <ChooserPopover
          label={w.bar.whichTag}
          trigger={<Button look="word">{w.bar.addTag}</Button>}
          onType={setTyped}
          choices={found
            .filter((t) => !bar.tags.includes(t.id))
            .map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
          onChoose={(t) => onSay({ ...bar, tags: [...bar.tags, t.key] })}
        />
      </Says>
    </Fold>
  )
}

/** Names in an order; each can go a step forward, or away. */
function Ordered({
  chosen,
  name,
  onSay,
}: {
  chosen: readonly string[]
  name: (id: string) => string
  onSay: (ids: string[]) => void
}) {
  function earlier(at: number) {
    const next = [...chosen]
    const [one] = next.splice(at, 1)
    if (one) next.splice(at - 1, 0, one)
    onSay(next)
  }
  return chosen.map((id, i) => (
    <span key={id} className="whitespace-nowrap">
      {i > 0 && (
        <button
          type="button"
          aria-label={w.bar.earlier(name(id))}
          title={w.bar.earlier(name(id))}
          className="px-0.5 text-quiet hover:text-ink"
          onClick={() => earlier(i)}
        >
          ←
        </button>
      )}
      <Named
        name={name(id)}
        label={w.source.takeOff(name(id))}
        onRemove={() => onSay(chosen.filter((c) => c !== id))}
      />
    </span>
  ))
}
