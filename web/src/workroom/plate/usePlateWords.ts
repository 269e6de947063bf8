import { type QueryClient, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'
import { type Field, fields, isNothing, joined, noEdit, type PlateEdit, withEdit } from './plateEdit'

export type { Field } from './plateEdit'
export type Saving = 'clean' | 'unsaved' | 'saving' | 'saved' | 'stale' | { problem: string }

const pause = 700
const again = 4000

/** Tags by what the server knows them by; one that was added here and taken off before it was written is found by its name. */
function tagsOf(plate: Api['Plate'], tags: readonly Api['PlateTag'][]) {
  return tags
    .map((t) => plate.tags.find((k) => k.id === t.id || k.name.toLowerCase() === t.name.toLowerCase()))
    .flatMap((t) => (t ? [t.id] : []))
}

/**
 * Writes what is done to one plate: one write at a time, and again for as long as anything was done meanwhile. It goes on when
 * one walks to the next photo. When somebody else wrote, and not over the same words, it goes on by itself; else one decides.
 */
class Saver {
  pending: PlateEdit = noEdit
  writing: PlateEdit = noEdit
  version: number
  /** The words as they were when one began to type over them. */
  base: Record<Field, string>
  stale = false
  private running = false
  private timer: ReturnType<typeof setTimeout> | undefined
  tell: (saving: Saving) => void = () => {}

  constructor(
    private readonly client: QueryClient,
    private plate: Api['Plate'],
  ) {
    this.version = plate.version
    this.base = plate
  }

  /** What the server says now; as long as nothing is being written it is what one types over. */
  follow(plate: Api['Plate']) {
    this.plate = plate
    if (!this.running && isNothing(this.pending)) {
      this.version = plate.version
      this.base = plate
    }
  }

  get edit() {
    return joined(this.writing, this.pending)
  }

  change(next: Partial<PlateEdit>, at: 'pause' | 'once') {
    this.pending = joined(this.pending, { ...noEdit, ...next })
    if (this.stale) return
    this.tell(this.running ? 'saving' : 'unsaved')
    clearTimeout(this.timer)
    if (at === 'once') void this.run()
    else this.timer = setTimeout(() => void this.run(), pause)
  }

  async run() {
    clearTimeout(this.timer)
    if (this.running || this.stale) return
    this.running = true
    let end: Saving | null = null
    while (end === null && !isNothing(this.pending)) {
      this.writing = this.pending
      this.pending = noEdit
      this.tell('saving')
      end = await this.write()
    }
    this.running = false
    if (end !== null) this.tell(end)
    else if (this.plate) this.tell('saved')
  }

  private async write(): Promise<Saving | null> {
    const e = this.writing
    try {
      const { plate } = await body(
        api.PATCH('/api/photos/{photo}', {
          params: { path: { photo: this.plate.id }, header: { 'If-Match': this.version } },
          body: {
            ...e.words,
            ...(e.taken && { taken: e.taken }),
            ...(e.position && { position: e.position }),
            addPeople: [...e.addPeople],
            removePeople: [...e.removePeople],
            addTags: [...e.addTags],
            removeTags: tagsOf(this.plate, e.removeTags),
            addCategories: e.addCategories.map((c) => c.id),
            removeCategories: [...e.removeCategories],
          },
        }),
        w.errors.away,
      )
      this.writing = noEdit
      this.version = plate.version
      this.base = plate
      this.plate = plate
      this.client.setQueryData(['plate', plate.id], plate)
      for (const key of ['sheet', 'figures', 'tags', 'people', 'history'])
        void this.client.invalidateQueries({ queryKey: [key] })
      return null
    } catch (problem) {
      this.pending = joined(e, this.pending)
      this.writing = noEdit
      return problem instanceof ApiProblem && problem.kind === 'stale' ? this.met() : this.failed(problem)
    }
  }

  /** Somebody else wrote in between: words nobody else touched are written all the same. */
  private async met(): Promise<Saving | null> {
    try {
      const now = await body(
        api.GET('/api/photos/{photo}', { params: { path: { photo: this.plate.id } } }),
        w.errors.away,
      )
      const conflict = (Object.keys(this.pending.words) as Field[]).some(
        (f) => now[f] !== this.base[f] && now[f] !== this.pending.words[f],
      )
      this.plate = now
      this.client.setQueryData(['plate', now.id], now)
      if (!conflict) {
        this.version = now.version
        this.base = now
        return null
      }
      this.stale = true
      return 'stale'
    } catch (problem) {
      return this.failed(problem)
    }
  }

  /** What did not reach the server is tried again by itself; what it refused for good waits for the next change. */
  private failed(problem: unknown): Saving {
    const away = !(problem instanceof ApiProblem) || problem.status === 0 || problem.status >= 500
    if (away) this.timer = setTimeout(() => void this.run(), again)
    return { problem: problem instanceof Error ? problem.message : w.errors.away }
  }

  keepMine() {
    this.stale = false
    this.version = this.plate.version
    this.base = this.plate
    void this.run()
  }

  takeTheirs() {
    this.stale = false
    this.pending = noEdit
    this.version = this.plate.version
    this.base = this.plate
    this.tell('clean')
  }
}

/** The words of one plate while they are typed. They save by themselves after a pause; nothing typed is lost or called saved before it is. */
export function usePlateWords(plate: Api['Plate']) {
  const client = useQueryClient()
  const [saving, setSaving] = useState<Saving>('clean')
  const [, redraw] = useState(0)
  const kept = useRef<Saver>(null)
  kept.current ??= new Saver(client, plate)
  const saver = kept.current
  saver.follow(plate)
  useEffect(() => {
    saver.tell = (now) => {
      setSaving(now)
      redraw((n) => n + 1)
    }
    const last = () => void saver.run()
    // Leaving the page, too, writes what is typed as far as the browser lets it.
    window.addEventListener('pagehide', last)
    return () => {
      window.removeEventListener('pagehide', last)
      saver.tell = () => {}
      last()
    }
  }, [saver])
  const change = useCallback(
    (next: Partial<PlateEdit>, at: 'pause' | 'once') => saver.change(next, at),
    [saver],
  )
  const { words } = saver.edit
  return {
    saving,
    words: { ...(Object.fromEntries(fields.map((f) => [f, plate[f]])) as Record<Field, string>), ...words },
    ...withEdit(plate, saver.edit),
    /** Fields whose words here differ from what somebody else wrote. */
    conflicts: saving === 'stale' ? (Object.keys(words) as Field[]).filter((f) => words[f] !== plate[f]) : [],
    type: (field: Field, text: string) => change({ words: { [field]: text } }, 'pause'),
    say: (next: Pick<PlateEdit, 'taken' | 'position'>) => change(next, 'once'),
    addPerson: (name: string) => change({ addPeople: [name] }, 'once'),
    removePerson: (name: string) => change({ removePeople: [name] }, 'once'),
    addTag: (name: string) => change({ addTags: [name] }, 'once'),
    removeTag: (tag: Api['PlateTag']) => change({ removeTags: [tag] }, 'once'),
    addCategory: (category: Api['PlateCategory']) => change({ addCategories: [category] }, 'once'),
    removeCategory: (id: string) => change({ removeCategories: [id] }, 'once'),
    flush: () => void saver.run(),
    keepMine: () => saver.keepMine(),
    takeTheirs: () => saver.takeTheirs(),
  }
}
