import { type KeyboardEvent, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useCategories, useTags } from '../shell/data'
import { type Field, type Saving, usePlateWords } from './usePlateWords'

const names: Record<Field, string> = {
  title: w.plate.title,
  caption: w.plate.caption,
  alt: w.plate.altLabel,
  credit: w.plate.credit,
}

function says(saving: Saving) {
  if (saving === 'saving') return w.plate.saving
  if (saving === 'saved') return w.plate.saved
  if (saving === 'unsaved') return w.plate.unsaved
  if (saving === 'stale') return w.plate.stale
  return typeof saving === 'object' ? `${w.plate.unsaved} ${saving.problem}` : ''
}

/** A photo's words, each edited where it stands. */
export function PlateWords({ plate }: { plate: Api['Plate'] }) {
  const edit = usePlateWords(plate)
  function field(name: Field, placeholder: string, look: string, lines: boolean) {
    return (
      <textarea
        aria-label={names[name]}
        className={`in-place ${look}`}
        rows={1}
        placeholder={placeholder}
        value={edit.words[name]}
        spellCheck
        onChange={(e) => edit.type(name, lines ? e.target.value : e.target.value.replaceAll('\n', ' '))}
        onBlur={edit.flush}
        onKeyDown={(e: KeyboardEvent<HTMLTextAreaElement>) => {
          if (e.key === 'Escape' || (e.key === 'Enter' && !lines)) {
            e.preventDefault()
            e.stopPropagation()
            e.currentTarget.blur()
          }
        }}
      />
    )
  }
  return (
    <>
      {field('title', w.plate.noTitle, 'font-display text-[1.625rem] leading-[1.15] font-[650]', false)}
      <div className="mt-2">{field('caption', w.plate.noCaption, '', true)}</div>
      <p className="mt-3 text-[0.71875rem] text-quiet">{w.plate.altLabel}</p>
      {field('alt', w.plate.noAlt, 'text-small text-quiet leading-[1.5]', true)}
      <div role="status" className="mt-1 min-h-5 text-[0.71875rem] text-quiet">
        {says(edit.saving)}
      </div>
      {edit.saving === 'stale' && (
        <div className="mb-3 border-l-[3px] border-plum pl-3 text-small">
          {edit.conflicts.map((name) => (
            <p key={name} className="mb-2">
              <span className="text-quiet">
                {names[name]}. {w.plate.theirs}:
              </span>{' '}
              {plate[name] || w.plate.blank}
            </p>
          ))}
          <span className="flex gap-4">
            <Button look="word" onClick={edit.keepMine}>
              {w.plate.keepMine}
            </Button>
            <Button look="word" onClick={edit.takeTheirs}>
              {w.plate.takeTheirs}
            </Button>
          </span>
        </div>
      )}
      <div className="border-t border-line pt-3.5 text-small leading-[1.7]">
        <div className="grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-1.5">
          <span className="text-quiet">{w.plate.by}</span>
          {field('credit', plate.creator || w.plate.noCredit, '!my-0 !ml-0 !w-full', false)}
        </div>
        <Tags tags={edit.tags} onAdd={edit.addTag} onRemove={edit.removeTag} />
        <Categories categories={edit.categories} onAdd={edit.addCategory} onRemove={edit.removeCategory} />
      </div>
    </>
  )
}

function Tags({
  tags,
  onAdd,
  onRemove,
}: {
  tags: readonly Api['PlateTag'][]
  onAdd: (name: string) => void
  onRemove: (tag: Api['PlateTag']) => void
}) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const known = useTags(typed).data ?? []
  const mine = tags.map((t) => t.name)
  function add(name: string) {
    onAdd(name)
    setTyped('')
  }
  return (
    <p>
      <span className="text-quiet">{w.plate.shows}</span>{' '}
      {tags.map((t) => (
        <span key={t.id} className="whitespace-nowrap">
          <button
            type="button"
            className="underline decoration-line decoration-1 underline-offset-4 hover:line-through hover:decoration-ink"
            aria-label={w.plate.removeTag(t.name)}
            title={w.plate.removeTag(t.name)}
            onClick={() => onRemove(t)}
          >
            {t.name}
          </button>
          ,{' '}
        </span>
      ))}
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.plate.addTag}
        trigger={
          <button type="button" className="underline decoration-strong-line decoration-1 underline-offset-4">
            {w.plate.addTag}
          </button>
        }
      >
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
      </Popover>
    </p>
  )
}

function Categories({
  categories,
  onAdd,
  onRemove,
}: {
  categories: readonly Api['PlateCategory'][]
  onAdd: (category: Api['PlateCategory']) => void
  onRemove: (id: string) => void
}) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const all = useCategories().data ?? []
  const mine = categories.map((c) => c.id)
  return (
    <p>
      <span className="text-quiet">{w.plate.category}</span>{' '}
      {categories.map((c) => (
        <span key={c.id}>
          <button
            type="button"
            className="underline decoration-line decoration-1 underline-offset-4 hover:line-through hover:decoration-ink"
            aria-label={w.plate.removeTag(c.path)}
            title={w.plate.removeTag(c.path)}
            onClick={() => onRemove(c.id)}
          >
            {c.path}
          </button>
          ,{' '}
        </span>
      ))}
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.plate.addCategory}
        trigger={
          <button type="button" className="underline decoration-strong-line decoration-1 underline-offset-4">
            {w.plate.addCategory}
          </button>
        }
      >
        <Chooser
          label={w.hand.category}
          typed={typed}
          onType={setTyped}
          choices={all
            .filter((c) => !mine.includes(c.id))
            .map((c) => ({ key: c.id, name: c.name, depth: c.depth }))}
          onChoose={(choice) => {
            onAdd({ id: choice.key, path: choice.name })
            setOpen(false)
          }}
        />
      </Popover>
    </p>
  )
}
