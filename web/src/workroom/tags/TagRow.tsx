import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct, useTags } from '../shell/data'
import { tellDone } from '../shell/news'
import { useMerge } from './useMerge'

const away = w.errors.away

/** One tag: its name edited where it stands, the photos that have it, and what else can be done with it. */
export function TagRow({ tag }: { tag: Api['TagLine'] }) {
  const rename = useAct(
    (name: string) =>
      body(
        api.PATCH('/api/tags/{tag}', { params: { path: { tag: tag.id } }, body: { name, was: tag.name } }),
        away,
      ),
    (done, name) => tellDone(w.tags.renamed(name), done),
  )
  const remove = useAct(
    () => body(api.DELETE('/api/tags/{tag}', { params: { path: { tag: tag.id } } }), away),
    (done) => tellDone(w.tags.removed(tag.name), done),
  )
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_6.5rem_auto] items-baseline gap-x-5 border-t border-line py-1">
      <input
        key={tag.name}
        defaultValue={tag.name}
        aria-label={`${w.tags.name}: ${tag.name}`}
        maxLength={80}
        className="in-place"
        onBlur={(e) => {
          const name = e.target.value.trim()
          if (!name || name === tag.name) e.target.value = tag.name
          else rename.mutate(name)
        }}
        onKeyDown={(e) => {
          if (e.key === 'Escape') e.currentTarget.value = tag.name
          if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur()
        }}
      />
      {tag.photos > 0 ? (
        <Link
          to="/workroom/photos"
          search={{ tag: tag.id }}
          className="text-right text-small tabular-nums underline decoration-strong-line decoration-1 underline-offset-[5px] hover:decoration-ink"
        >
          {w.photos(tag.photos)}
        </Link>
      ) : (
        <span className="text-right text-small text-quiet">
          {tag.albums > 0 ? w.tags.onAlbums(tag.albums) : w.tags.onNone}
        </span>
      )}
      <span className="flex items-baseline gap-4 text-small">
        <MakeOne tag={tag} />
        <Button
          look="word"
          aria-label={`${w.tags.remove}: ${tag.name}`}
          onClick={() => remove.mutate(undefined)}
        >
          {w.tags.remove}
        </Button>
      </span>
    </li>
  )
}

/** Chooses the tag that this one becomes. */
function MakeOne({ tag }: { tag: Api['TagLine'] }) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const merge = useMerge(() => setOpen(false))
  return (
    <Popover
      open={open}
      onOpenChange={(now) => {
        setTyped('')
        setOpen(now)
      }}
      label={w.tags.become(tag.name)}
      trigger={
        <Button look="word" aria-label={`${w.tags.makeOne}: ${tag.name}`}>
          {w.tags.makeOne}
        </Button>
      }
    >
      <Others
        tag={tag}
        typed={typed}
        onType={setTyped}
        onChoose={(into) => merge.mutate({ into, gone: [tag] })}
      />
    </Popover>
  )
}

/** Only asked for once it is open: the other tags, by what is typed. */
function Others({
  tag,
  typed,
  onType,
  onChoose,
}: {
  tag: Api['TagLine']
  typed: string
  onType: (text: string) => void
  onChoose: (into: { id: string; name: string }) => void
}) {
  const others = (useTags(typed).data ?? []).filter((t) => t.id !== tag.id)
  return (
    <Chooser
      label={w.tags.become(tag.name)}
      typed={typed}
      onType={onType}
      choices={others.map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
      onChoose={(choice) => onChoose({ id: choice.key, name: choice.name })}
    />
  )
}
