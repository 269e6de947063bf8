import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'
import type { Block } from './blocks/blocks'
import { replace } from './blocks/blocks'

export type DraftState = 'saved' | 'unsaved' | 'saving' | 'collided'
type Work = Api['PageBase']

const pause = 500

/**
 * A page's draft while it is worked on. It saves by itself, each time with what it began from, so that the server puts it together
 * with what others have written meanwhile; where both changed the same block, it says so and keeps what was typed.
 */
export function usePageDraft(page: Api['OpenedPage']) {
  const client = useQueryClient()
  const read: Work = { address: page.address, draft: page.draft }
  const [edit, setEdit] = useState<Work>(read)
  const [state, setState] = useState<DraftState>('saved')
  const [faults, setFaults] = useState<Record<string, string>>({})
  const [problem, setProblem] = useState('')
  const dirty = useRef(false)
  /** What the server had when it was last told, and its version. */
  const base = useRef(read)
  const version = useRef(page.edited)
  /** What stands here, before it is drawn: a write that ends in between must neither miss it nor lay the server's over it. */
  const latest = useRef(edit)
  const running = useRef<Promise<boolean> | null>(null)

  // What others wrote is taken over as soon as nothing of one's own is on its way.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the server has another version.
  useEffect(() => {
    // An answer that was on its way while one's own was written is older than that.
    if (dirty.current || running.current || page.edited <= version.current) return
    adopt(page)
  }, [page.edited])

  function adopt(now: Api['OpenedPage']) {
    const work = { address: now.address, draft: now.draft }
    base.current = work
    version.current = now.edited
    latest.current = work
    setEdit(work)
  }

  async function write(over = false): Promise<boolean> {
    dirty.current = false
    setState('saving')
    const sent = latest.current
    try {
      const saved = await body(
        api.PUT('/api/pages/{page}', {
          params: { path: { page: page.id }, header: { 'If-Match': version.current } },
          body: { ...sent, was: base.current, over },
        }),
        w.errors.away,
      )
      if (latest.current === sent) adopt(saved.page)
      // What was typed meanwhile goes on from what was sent; the server puts it together with the rest.
      else base.current = sent
      client.setQueryData(['pages', page.id], saved.page)
      void client.invalidateQueries({ queryKey: ['pages'], exact: true })
      void client.invalidateQueries({ queryKey: ['pages', page.id, 'notes'] })
      setFaults({})
      setProblem('')
      setState(dirty.current ? 'unsaved' : 'saved')
      return true
    } catch (caught) {
      dirty.current = true
      const known = caught instanceof ApiProblem ? caught : new ApiProblem(0, 'away', w.errors.away)
      setFaults(known.fields)
      setProblem(Object.keys(known.fields).length > 0 ? '' : known.message)
      setState(known.kind === 'collided' ? 'collided' : 'unsaved')
      return false
    }
  }
  /** Writes what is not written yet; one write at a time. */
  async function flush(over = false): Promise<boolean> {
    // What was changed during a write is written after it: done is done only when nothing is left to write.
    while (running.current || dirty.current) {
      // It is over for all who wait for it at once: the first of them may begin the next.
      running.current ??= write(over).finally(() => {
        running.current = null
      })
      if (!(await running.current)) return false
    }
    return true
  }
  const save = useRef(flush)
  save.current = flush
  // biome-ignore lint/correctness/useExhaustiveDependencies: a pause after each change of the draft.
  useEffect(() => {
    if (!dirty.current || state === 'collided') return
    const timer = setTimeout(() => void save.current(), pause)
    return () => clearTimeout(timer)
  }, [edit])
  useEffect(() => () => void save.current(), [])

  function change(next: (work: Work) => Work) {
    dirty.current = true
    setState((s) => (s === 'collided' ? s : 'unsaved'))
    latest.current = next(latest.current)
    setEdit(latest.current)
  }
  const changeDraft = (next: Partial<Api['PageContent']>) =>
    change((e) => ({ ...e, draft: { ...e.draft, ...next } }))

  return {
    edit,
    blocks: edit.draft.blocks,
    state,
    faults,
    problem,
    flush,
    /** The version of the draft that stands here. */
    version: () => version.current,
    changeDraft,
    readdress: (address: string) => change((e) => ({ ...e, address })),
    arrange: (next: (blocks: readonly Block[]) => Block[]) =>
      change((e) => ({ ...e, draft: { ...e.draft, blocks: next(e.draft.blocks) } })),
    say: (block: Block) =>
      change((e) => ({
        ...e,
        draft: { ...e.draft, blocks: replace(e.draft.blocks, block.id, block) },
      })),
    /** Where both changed the same, one's own stands. */
    keepMine: () => flush(true),
    /** Where both changed the same, the other's stands; what one changed elsewhere is kept. */
    async takeTheirs() {
      const now = await body(
        api.GET('/api/pages/{page}', { params: { path: { page: page.id } } }),
        w.errors.away,
      )
      const theirs = new Map(now.draft.blocks.map((b) => [b.id, b]))
      change((e) => ({
        ...e,
        draft: {
          ...e.draft,
          ...('title' in faults && { title: now.draft.title }),
          ...('description' in faults && { description: now.draft.description }),
          blocks: e.draft.blocks.map((b) => (faults[b.id] ? (theirs.get(b.id) ?? b) : b)),
        },
      }))
      setFaults({})
      await flush()
    },
  }
}

export type PageDraft = ReturnType<typeof usePageDraft>
