import { type ReactNode, useState } from 'react'
import { api, body } from '../../api/client'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
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
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const categories = useCategories().data ?? []
  function choose(category: { id: string; name: string }) {
    setOpen(false)
    onChoose(category)
  }
  const make = useAct(
    (name: string) => body(api.POST('/api/categories', { body: { name } }), away),
    ({ id }, name) => choose({ id, name }),
  )
  return (
    <Popover
      open={open}
      onOpenChange={(now) => {
        setTyped('')
        setOpen(now)
      }}
      label={w.standing.whichCategory}
      trigger={trigger}
    >
      <Chooser
        label={w.standing.whichCategory}
        typed={typed}
        onType={setTyped}
        choices={categories
          .filter((c) => !without.includes(c.id))
          .map((c) => ({
            key: c.id,
            name: c.name,
            depth: c.depth,
            note: c.albums > 0 ? w.count(c.albums) : '',
          }))}
        onChoose={(c) => choose({ id: c.key, name: c.name })}
        onNew={(name) => make.mutate(name)}
        newLabel={w.standing.makeCategory}
      />
    </Popover>
  )
}
