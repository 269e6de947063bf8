import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { type Api, api, body } from '../../../api/client'
import { w } from '../../../words'
import { useHand } from '../../shell/hand'
import { tellDone, tellProblem } from '../../shell/news'
import { refresh } from '../../shell/refresh'
import type { WordField } from '../pattern'

const away = w.errors.away
const step = 100

type Words = Partial<Record<WordField, string>>
/** A cell that somebody else wrote while it was typed: both are kept until one decides. */
export type Conflict = { photo: string; field: WordField; mine: string; theirs: string }

/**
 * The rows of a table over what is in hand: read where one looks, and written as they are typed, one write at a time. What is typed
 * is never lost: a row that somebody else changed meanwhile is read again, and only a cell that both wrote waits for a decision.
 */
export class Table {
  readonly rows = new Map<string, Api['TableRow']>()
  /** Typed and not written yet, by photo. */
  pending = new Map<string, Words>()
  conflicts: Conflict[] = []
  state: 'clean' | 'saving' | 'saved' | { problem: string } = 'clean'
  private running = false
  private readonly asked = new Set<string>()
  draw: () => void = () => {}
  written: (done: Api['Done']) => void = () => {}

  async read(ids: readonly string[]) {
    const fresh = ids.filter((id) => !this.asked.has(id))
    if (fresh.length === 0) return
    for (const id of fresh) this.asked.add(id)
    try {
      await this.fetch(fresh)
    } catch (problem) {
      for (const id of fresh) this.asked.delete(id)
      tellProblem(problem)
    }
  }

  /** Reads again what is known, after somebody did something. */
  async again() {
    if (this.running) return
    const known = [...this.rows.keys()]
    for (let i = 0; i < known.length; i += step) await this.fetch(known.slice(i, i + step)).catch(() => {})
  }

  private async fetch(ids: readonly string[]) {
    const { rows } = await body(api.POST('/api/words/rows', { body: { photos: [...ids] } }), away)
    for (const row of rows) this.rows.set(row.photo.id, row)
    this.draw()
  }

  text(id: string, field: WordField) {
    return this.pending.get(id)?.[field] ?? this.rows.get(id)?.words[field] ?? ''
  }

  /** @param cells `was` is what a cell said when one began to type in it: read again meanwhile, it may say something else. */
  type(cells: readonly { id: string; field: WordField; text: string; was?: string }[]) {
    for (const { id, field, text, was } of cells) {
      const now = this.text(id, field)
      if (text === now || text === was) continue
      if (was !== undefined && was !== now) {
        this.waits({ photo: id, field, mine: text, theirs: now })
        continue
      }
      this.pending.set(id, { ...this.pending.get(id), [field]: text })
    }
    this.draw()
    void this.run()
  }

  /** A cell waits for a decision once, however often it is left. */
  private waits(cell: Conflict) {
    const others = this.conflicts.filter((c) => c.photo !== cell.photo || c.field !== cell.field)
    this.conflicts = [...others, cell]
  }

  decide(mine: boolean) {
    const open = this.conflicts
    this.conflicts = []
    if (mine) this.type(open.map((c) => ({ id: c.photo, field: c.field, text: c.mine })))
    else this.draw()
  }

  private async run() {
    if (this.running) return
    this.running = true
    while (this.pending.size > 0) {
      const writing = this.pending
      this.pending = new Map()
      const base = new Map([...writing.keys()].map((id) => [id, this.rows.get(id)]))
      this.show(writing)
      this.state = 'saving'
      this.draw()
      try {
        const out = await body(
          api.PUT('/api/words/rows', {
            body: {
              rows: [...writing].map(([id, words]) => ({
                photo: id,
                words: words as Record<string, string>,
                version: base.get(id)?.version ?? 0,
              })),
            },
          }),
          away,
        )
        await this.fetch([...writing.keys()])
        for (const id of out.stale) this.met(id, writing.get(id) ?? {}, base.get(id))
        this.state = 'saved'
        if (out.done.act) this.written(out.done)
      } catch (problem) {
        // What was not written is typed still.
        for (const [id, row] of base) if (row) this.rows.set(id, row)
        for (const [id, words] of writing) this.pending.set(id, { ...words, ...this.pending.get(id) })
        this.state = { problem: problem instanceof Error ? problem.message : away }
        this.draw()
        this.running = false
        return
      }
    }
    this.running = false
    this.draw()
  }

  /** What is on its way is shown as if it were there. */
  private show(writing: ReadonlyMap<string, Words>) {
    for (const [id, words] of writing) {
      const row = this.rows.get(id)
      if (row) this.rows.set(id, { ...row, words: { ...row.words, ...(words as Record<string, string>) } })
    }
  }

  private met(id: string, mine: Words, base: Api['TableRow'] | undefined) {
    const now = this.rows.get(id)
    if (!now) return
    for (const [field, text] of Object.entries(mine) as [WordField, string][]) {
      const theirs = now.words[field] ?? ''
      if (theirs === (base?.words[field] ?? ''))
        this.pending.set(id, { ...this.pending.get(id), [field]: text })
      else if (theirs !== text) this.waits({ photo: id, field, mine: text, theirs })
    }
  }

  retry() {
    void this.run()
  }
}

export function useTable() {
  const { ids, count } = useHand()
  const client = useQueryClient()
  const kept = useRef<Table>(null)
  kept.current ??= new Table()
  const table = kept.current
  const [, draw] = useState(0)
  useEffect(() => {
    table.draw = () => draw((n) => n + 1)
    table.written = (done) => {
      tellDone(w.describing.done(done.photos, 0, 0), done)
      refresh(client)
    }
    // An undo, or somebody else's act, is seen here, too.
    const stop = client.getQueryCache().subscribe((event) => {
      if (
        event.type === 'updated' &&
        event.action.type === 'invalidate' &&
        event.query.queryKey[0] === 'figures'
      )
        void table.again()
    })
    return () => {
      table.draw = () => {}
      stop()
    }
  }, [table, client])
  return { table, ids, count }
}
