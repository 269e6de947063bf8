import { type ReactNode, useState } from 'react'
import type { Api } from '../../api/client'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useCategories, usePeople, useTags } from '../shell/data'

/** Words in a row, each taken off by pressing it, and a word that adds one. */
export function InARow<T>({
  label,
  things,
  keyOf,
  nameOf,
  onRemove,
  add,
  chooser,
}: {
  label: string
  things: readonly T[]
  keyOf: (thing: T) => string
  nameOf: (thing: T) => string
  onRemove: (thing: T) => void
  add: string
  chooser: (close: () => void) => ReactNode
}) {
  const [open, setOpen] = useState(false)
  return (
    <p>
      <span className="text-quiet">{label}</span>{' '}
      {things.map((thing) => (
        <span key={keyOf(thing)}>
          <button
            type="button"
            className="underline decoration-line decoration-1 underline-offset-4 hover:line-through hover:decoration-ink"
            aria-label={w.plate.removeTag(nameOf(thing))}
            title={w.plate.removeTag(nameOf(thing))}
            onClick={() => onRemove(thing)}
          >
            {nameOf(thing)}
          </button>
          ,{' '}
        </span>
      ))}
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={add}
        trigger={
          <button type="button" className="underline decoration-strong-line decoration-1 underline-offset-4">
            {add}
          </button>
        }
      >
        {chooser(() => setOpen(false))}
      </Popover>
    </p>
  )
}

export function Tags({
  tags,
  onAdd,
  onRemove,
}: {
  tags: readonly Api['PlateTag'][]
  onAdd: (name: string) => void
  onRemove: (tag: Api['PlateTag']) => void
}) {
  return (
    <InARow
      label={w.plate.shows}
      things={tags}
      keyOf={(t) => t.id}
      nameOf={(t) => t.name}
      onRemove={onRemove}
      add={w.plate.addTag}
      chooser={() => <TagChooser mine={tags.map((t) => t.name)} onAdd={onAdd} />}
    />
  )
}

/** Finds a tag, or offers a new one. */
export function TagChooser({ mine, onAdd }: { mine: readonly string[]; onAdd: (name: string) => void }) {
  const [typed, setTyped] = useState('')
  const known = useTags(typed).data ?? []
  function add(name: string) {
    onAdd(name)
    setTyped('')
  }
  return (
    <Chooser
      label={w.hand.addTag}
      typed={typed}
      onType={setTyped}
      choices={known
        .filter((t) => !mine.includes(t.name))
        .map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
      onChoose={(choice) => add(choice.name)}
      onNew={add}
      newLabel={(name) => `${w.hand.tag} “${name}”`}
    />
  )
}

export function People({
  people,
  onAdd,
  onRemove,
}: {
  people: readonly string[]
  onAdd: (name: string) => void
  onRemove: (name: string) => void
}) {
  return (
    <InARow
      label={w.plate.people}
      things={people}
      keyOf={(n) => n}
      nameOf={(n) => n}
      onRemove={onRemove}
      add={w.plate.addPerson}
      chooser={() => <PersonChooser mine={people} onAdd={onAdd} />}
    />
  )
}

/** Finds somebody whom other photos show, or offers a new name. */
export function PersonChooser({ mine, onAdd }: { mine: readonly string[]; onAdd: (name: string) => void }) {
  const [typed, setTyped] = useState('')
  const known = usePeople(typed).data ?? []
  function add(name: string) {
    onAdd(name)
    setTyped('')
  }
  return (
    <Chooser
      label={w.plate.whoIsShown}
      typed={typed}
      onType={setTyped}
      choices={known
        .filter((p) => !mine.includes(p.value))
        .map((p) => ({ key: p.value, name: p.value, note: w.count(p.photos) }))}
      onChoose={(choice) => add(choice.name)}
      onNew={add}
      newLabel={(name) => w.plate.shownHere(name)}
    />
  )
}

export function Categories({
  categories,
  onAdd,
  onRemove,
}: {
  categories: readonly Api['PlateCategory'][]
  onAdd: (category: Api['PlateCategory']) => void
  onRemove: (id: string) => void
}) {
  return (
    <InARow
      label={w.plate.category}
      things={categories}
      keyOf={(c) => c.id}
      nameOf={(c) => c.path}
      onRemove={(c) => onRemove(c.id)}
      add={w.plate.addCategory}
      chooser={(close) => (
        <CategoryChooser
          mine={categories.map((c) => c.id)}
          onAdd={(category) => {
            onAdd(category)
            close()
          }}
        />
      )}
    />
  )
}

export function CategoryChooser({
  mine,
  onAdd,
}: {
  mine: readonly string[]
  onAdd: (category: Api['PlateCategory']) => void
}) {
  const [typed, setTyped] = useState('')
  const all = useCategories().data ?? []
  return (
    <Chooser
      label={w.hand.category}
      typed={typed}
      onType={setTyped}
      choices={all
        .filter((c) => !mine.includes(c.id))
        .map((c) => ({ key: c.id, name: c.name, depth: c.depth }))}
      onChoose={(choice) => onAdd({ id: choice.key, path: choice.name })}
    />
  )
}
