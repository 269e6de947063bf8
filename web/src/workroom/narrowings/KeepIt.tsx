import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct, useKeptNarrowings } from '../shell/data'
import { tellDone } from '../shell/news'
import { keptAs, searchOf } from './kept'
import type { NarrowingSearch } from './narrowing'

const away = w.errors.away
const word =
  'font-sans text-body font-normal text-quiet underline decoration-strong-line decoration-1 underline-offset-[6px] hover:text-ink hover:decoration-ink'

/** Keeps what the sheet is narrowed to under a name; where it is kept already, renames it or lets it go. */
export function KeepIt({ search }: { search: NarrowingSearch }) {
  const [open, setOpen] = useState(false)
  const kept = keptAs(useKeptNarrowings().data ?? [], search)
  const keep = useAct(
    async (name: string) =>
      kept
        ? body(
            api.PATCH('/api/narrowings/{narrowing}', {
              params: { path: { narrowing: kept.id }, header: { 'If-Match': kept.version } },
              body: { name },
            }),
            away,
          )
        : body(api.POST('/api/narrowings', { body: { name, search: searchOf(search) } }), away),
    ({ kept: now, done }) => {
      setOpen(false)
      tellDone(kept ? w.narrowing.renamed(now.name) : w.narrowing.kept(now.name), done)
    },
  )
  const letGo = useAct(
    async () =>
      body(
        api.DELETE('/api/narrowings/{narrowing}', {
          params: { path: { narrowing: kept?.id ?? '' }, header: { 'If-Match': kept?.version ?? 0 } },
        }),
        away,
      ),
    (done) => {
      setOpen(false)
      tellDone(w.narrowing.letGone, done)
    },
  )
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.narrowing.keep}
      trigger={
        <button type="button" className={`ml-4 ${word}`}>
          {kept ? w.narrowing.keptAs(kept.name) : w.narrowing.keep}
        </button>
      }
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          const name = String(new FormData(e.currentTarget).get('name') ?? '').trim()
          if (name) keep.mutate(name)
        }}
      >
        <label className="grid gap-1 text-small">
          <span className="text-quiet">{w.narrowing.name}</span>
          <input
            name="name"
            key={kept?.id}
            defaultValue={kept?.name}
            maxLength={80}
            className="border-b border-strong-line bg-transparent py-1 text-body"
            // biome-ignore lint/a11y/noAutofocus: it was opened to type the name
            autoFocus
          />
        </label>
        <div className="flex items-baseline gap-5">
          <Button look="next" type="submit" disabled={keep.isPending}>
            {kept ? w.narrowing.rename : w.narrowing.keepIt}
          </Button>
          {kept && (
            <Button look="word" className="text-small" onClick={() => letGo.mutate(undefined)}>
              {w.narrowing.letGo}
            </Button>
          )}
        </div>
      </form>
    </Popover>
  )
}
