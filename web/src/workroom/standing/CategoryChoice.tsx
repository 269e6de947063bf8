import type { ReactNode } from 'react'
import { api, body } from '../../api/client'
import { ChooserPopover } from '../../kit/ChooserPopover'
import { w } from '../../words'
import { useAct, useCategories } from '../shell/data'

const away = w.errors.away

/** Chooses a category to put an album in, or makes one. */
export function CategoryChoice({
  trigger,
  without,
  onChoose,
}: {
  trigger: ReactNode
  /** Those it stands in already. */
  without: readonly string[]
  onChoose: (category: { id: string; name: string }) => void
}) {
  const categories = useCategories().data ?? []
  const make = useAct(
    (name: string) => body(api.POST('/api/categories', { body: { name } }), away),
    ({ id }, name) => onChoose({ id, name }),
  )
  return (
    <ChooserPopover
      trigger={trigger}
      label={w.standing.whichCategory}
      choices={categories
        .filter((c) => !without.includes(c.id))
        .map((c) => ({
          key: c.id,
          name: c.name,
          depth: c.depth,
          note: c.albums > 0 ? w.count(c.albums) : '',
        }))}
      onChoose={(c) => onChoose({ id: c.key, name: c.name })}
      onNew={(name) => make.mutate(name)}
      newLabel={w.standing.makeCategory}
    />
  )
}
