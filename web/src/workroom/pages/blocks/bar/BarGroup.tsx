import { SortableContext, verticalListSortingStrategy } from '@dnd-kit/sortable'
import type { Api } from '../../../../api/client'
import { Button } from '../../../../kit/Button'
import { WordSelect } from '../../../../kit/WordSelect'
import { w } from '../../../../words'
import { LineField, Says } from '../Parts'
import { AddButtons } from './AddButtons'
import { BarLine } from './BarLine'
import { type BarButton, type Group, idOf } from './bar'

/** Buttons that stand together: how many of them visitors choose, what stands before them, and a line each. */
export function BarGroup({
  group,
  number,
  alone,
  source,
  names,
  onSay,
  onAdd,
  onStep,
  onRemove,
}: {
  group: Group
  /** From 0. */
  number: number
  /** There is no other. */
  alone: boolean
  source: Api['PhotosSource']
  names: (button: BarButton) => string
  onSay: (group: Group) => void
  onAdd: (button: BarButton) => void
  onStep: (id: string, by: -1 | 1) => void
  onRemove: () => void
}) {
  const ids = group.buttons.map((b) => idOf(number, b))
  return (
    <section aria-label={w.bar.group(number + 1)} className="border-t border-line pt-1.5">
      <Says>
        <WordSelect
          label={w.bar.choose}
          value={group.one ? 'one' : 'several'}
          choices={[
            ['several', number > 0 ? w.bar.andSeveral : w.bar.several],
            ['one', number > 0 ? w.bar.andOne : w.bar.one],
          ]}
          onChoose={(how) => onSay({ ...group, one: how === 'one' })}
        />
        <span className="min-w-32 flex-1">
          <LineField line={group.words} label={w.bar.words} onSay={(words) => onSay({ ...group, words })} />
        </span>
      </Says>
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <ol className="my-1 grid grid-cols-[minmax(0,1fr)]">
          {group.buttons.map((one, i) => (
            <BarLine
              key={ids[i]}
              id={ids[i] ?? ''}
              button={one}
              name={names(one)}
              onSay={(next) => onSay({ ...group, buttons: group.buttons.map((b) => (b === one ? next : b)) })}
              onStep={(by) => onStep(ids[i] ?? '', by)}
              onRemove={() => onSay({ ...group, buttons: group.buttons.filter((b) => b !== one) })}
            />
          ))}
        </ol>
      </SortableContext>
      <Says>
        <AddButtons source={source} group={group} onAdd={onAdd} />
        {(!alone || group.buttons.length === 0) && (
          <Button
            look="word"
            aria-label={w.bar.removeGroup(number + 1)}
            className="ml-auto text-quiet"
            onClick={onRemove}
          >
            {w.bar.remove}
          </Button>
        )}
      </Says>
    </section>
  )
}
