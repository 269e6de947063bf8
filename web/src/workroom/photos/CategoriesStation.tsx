import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct, useCategories } from '../shell/data'
import { tellDone } from '../shell/news'
import { Heading } from '../shell/Station'

const away = w.errors.away
type Line = Api['CategoryLine']

/** The tree of categories: names edited where they stand, order and parents changed beside them. */
export function CategoriesStation() {
  const lines = useCategories().data ?? []
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
    (c: { line: Line; name?: string; parent?: string | null; place?: number }) =>
      body(
        api.PUT('/api/categories/{category}', {
          params: { path: { category: c.line.id }, header: { 'If-Match': c.line.version } },
          body: {
            name: c.name ?? c.line.name,
            parent: c.parent === undefined ? c.line.parent : c.parent,
            place: c.place ?? null,
          },
        }),
        away,
      ),
    (done, c) => tellDone(w.categories.changed(c.name ?? c.line.name), done),
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
  const siblings = (line: Line) => lines.filter((l) => l.parent === line.parent)
  function isBeneath(line: Line, ancestor: Line): boolean {
    if (line.id === ancestor.id) return true
    const parent = lines.find((l) => l.id === line.parent)
    return parent ? isBeneath(parent, ancestor) : false
  }
  const newLine = (parent: string | null, depth: number) =>
    adding?.parent === parent && (
      <li className="border-t border-line py-1.5" style={{ paddingLeft: `${depth * 1.75}rem` }}>
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
      <ul className="mt-6 max-w-[54rem] border-b border-line">
        {lines.length === 0 && !adding && <li className="py-8 text-quiet">{w.categories.none}</li>}
        {lines.map((line) => {
          const at = siblings(line).findIndex((s) => s.id === line.id)
          return (
            <li key={line.id} className="contents">
              <div
                className="group grid grid-cols-[minmax(0,1fr)_5rem_auto] items-baseline gap-x-4 border-t border-line py-1"
                style={{ paddingLeft: `${line.depth * 1.75}rem` }}
              >
                <input
                  key={line.name}
                  defaultValue={line.name}
                  aria-label={w.categories.name}
                  className={`in-place ${line.depth === 0 ? 'font-semibold' : ''}`}
                  onBlur={(e) =>
                    e.target.value.trim() &&
                    e.target.value !== line.name &&
                    change.mutate({ line, name: e.target.value })
                  }
                  onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
                />
                <span className="text-right text-small text-quiet tabular-nums">{w.photos(line.photos)}</span>
                <span className="flex items-baseline gap-3 text-small">
                  <Button
                    look="word"
                    disabled={at === 0}
                    aria-label={`${w.categories.up}: ${line.name}`}
                    onClick={() => change.mutate({ line, place: at - 1 })}
                  >
                    {w.categories.up}
                  </Button>
                  <Button
                    look="word"
                    disabled={at === siblings(line).length - 1}
                    aria-label={`${w.categories.down}: ${line.name}`}
                    onClick={() => change.mutate({ line, place: at + 1 })}
                  >
                    {w.categories.down}
                  </Button>
                  <select
                    aria-label={`${line.name} ${w.categories.under}`}
                    className="w-36 cursor-pointer bg-transparent"
                    value={line.parent ?? ''}
                    onChange={(e) => change.mutate({ line, parent: e.target.value || null, place: 9999 })}
                  >
                    <option value="" className="bg-raised">
                      {w.categories.top}
                    </option>
                    {lines
                      .filter((l) => !isBeneath(l, line))
                      .map((l) => (
                        <option key={l.id} value={l.id} className="bg-raised">
                          {w.categories.under} {l.name}
                        </option>
                      ))}
                  </select>
                  <Button look="word" onClick={() => setAdding({ parent: line.id })}>
                    {w.categories.addBeneath}
                  </Button>
                  <Button
                    look="word"
                    aria-label={`${w.categories.remove}: ${line.name}`}
                    onClick={() => remove.mutate(line)}
                  >
                    {w.categories.remove}
                  </Button>
                </span>
              </div>
              <ul>{newLine(line.id, line.depth + 1)}</ul>
            </li>
          )
        })}
        {newLine(null, 0)}
      </ul>
    </div>
  )
}
