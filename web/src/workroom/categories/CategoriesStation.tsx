import { useQueryClient } from '@tanstack/react-query'
import { useNavigate, useSearch } from '@tanstack/react-router'
import { Fragment, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct, useCategories } from '../shell/data'
import { tellDone } from '../shell/news'
import { Heading } from '../shell/Station'
import { CategoryRow } from './CategoryRow'
import { CategoryShelf } from './CategoryShelf'
import { indent, steps } from './tree'
import { useTreeDrag } from './useTreeDrag'

const away = w.errors.away
type Line = Api['CategoryLine']
type Change = {
  line: Line
  name?: string
  parent?: string | null
  place?: number
  description?: string
  shown?: boolean
  page?: Api['CategoryPage']
}

/** The tree of categories, arranged by dragging and by keys; names and descriptions edited where they stand. */
export function CategoriesStation() {
  const lines = useCategories().data ?? []
  const client = useQueryClient()
  const { open } = useSearch({ from: '/workroom/categories' })
  const go = useNavigate({ from: '/workroom/categories' })
  const [adding, setAdding] = useState<{ parent: string | null } | null>(null)
  const make = useAct(
    (c: { name: string; parent: string | null }) =>
      body(
        api.POST('/api/categories', { body: { name: c.name, ...(c.parent && { parent: c.parent }) } }),
        away,
      ),
    () => setAdding(null),
  )
  const change = useAct(
    ({ line, ...next }: Change) =>
      body(
        api.PUT('/api/categories/{category}', {
          params: { path: { category: line.id }, header: { 'If-Match': line.version } },
          body: {
            name: next.name ?? line.name,
            parent: next.parent === undefined ? line.parent : next.parent,
            place: next.place ?? null,
            description: next.description ?? null,
            shown: next.shown ?? null,
            page: next.page ?? null,
          },
        }),
        away,
      ),
    (done, { line, shown, name, page }) => {
      // What is told stands at once: keys that place albums act before the tree is read again.
      if (page)
        client.setQueryData<Line[]>(['categories'], (read) =>
          read?.map((l) => (l.id === line.id ? { ...l, page } : l)),
        )
      tellDone(
        page
          ? w.shelf.changed(line.name)
          : shown === undefined
            ? w.categories.changed(name ?? line.name)
            : shown
              ? w.categories.shown(line.name)
              : w.categories.hiddenNow(line.name),
        done,
      )
    },
    'categories',
  )
  const remove = useAct(
    (line: Line) =>
      body(api.DELETE('/api/categories/{category}', { params: { path: { category: line.id } } }), away),
    (done, line) =>
      tellDone(
        w.categories.removed(
          line.name,
          lines.some((l) => l.parent === line.id),
        ),
        done,
      ),
  )
  const { list, dragged, handle } = useTreeDrag(lines, (id, to) => {
    const line = lines.find((l) => l.id === id)
    if (line) change.mutate({ line, ...to })
  })
  const landingLine = dragged && (
    <li
      aria-hidden
      className="relative h-0"
      style={{ marginLeft: dragged.depth * indent }}
      data-testid="landing"
    >
      <span className="absolute inset-x-0 -top-0.5 block h-[3px] bg-plum" />
    </li>
  )
  const newLine = (parent: string | null, depth: number) =>
    adding?.parent === parent && (
      <li className="border-t border-line py-1.5" style={{ paddingLeft: depth * indent + 32 }}>
        <form
          onSubmit={(e) => {
            e.preventDefault()
            make.mutate({ name: String(new FormData(e.currentTarget).get('name')), parent })
          }}
        >
          <input
            name="name"
            // biome-ignore lint/a11y/noAutofocus: it appears because one asked to type into it.
            autoFocus
            aria-label={w.categories.name}
            placeholder={w.categories.name}
            className="border-b border-plum bg-transparent outline-none"
            onKeyDown={(e) => e.key === 'Escape' && setAdding(null)}
          />
        </form>
      </li>
    )
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.categories.title}
        lead={w.categories.lead}
        right={
          <Button look="next" onClick={() => setAdding({ parent: null })}>
            {w.categories.add}
          </Button>
        }
      />
      <ul ref={list} className="mt-6 max-w-[66rem] border-b border-line">
        {lines.length === 0 && !adding && <li className="py-8 text-quiet">{w.categories.none}</li>}
        {lines.map((line) => (
          <Fragment key={line.id}>
            {dragged?.before === line.id && landingLine}
            <li>
              <CategoryRow
                line={line}
                hiddenBy={lines.find((l) => l.id === line.hiddenBy) ?? null}
                fading={dragged?.id === line.id}
                handle={handle(line)}
                onKey={(e) => {
                  const to = steps(lines, line.id, e.key)
                  if (!e.key.startsWith('Arrow')) return
                  e.preventDefault()
                  e.stopPropagation()
                  if (to) change.mutate({ line, ...to })
                }}
                open={open === line.id}
                onOpen={() => void go({ search: open === line.id ? {} : { open: line.id }, replace: true })}
                onChange={(next) => change.mutate({ line, ...next })}
                onAdd={() => setAdding({ parent: line.id })}
                onRemove={() => remove.mutate(line)}
              />
              {open === line.id && (
                <div style={{ paddingLeft: line.depth * indent + 88 }}>
                  <CategoryShelf line={line} onPage={(page) => change.mutate({ line, page })} />
                </div>
              )}
            </li>
            {newLine(line.id, line.depth + 1)}
          </Fragment>
        ))}
        {dragged?.before === null && landingLine}
        {newLine(null, 0)}
      </ul>
    </div>
  )
}
