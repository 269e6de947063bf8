import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'

export type PageEdit = Api['PageEdit']
export type DraftState = 'saved' | 'unsaved' | 'saving' | 'stale'

const pause = 500

/** A page's draft while it is worked on: it saves by itself, and says which field cannot be kept and why. */
export function usePageDraft(page: Api['PageLine']) {
  const client = useQueryClient()
  const [edit, setEdit] = useState<PageEdit>({ address: page.address, draft: page.draft })
  const [state, setState] = useState<DraftState>('saved')
  const [faults, setFaults] = useState<Record<string, string>>({})
  const [problem, setProblem] = useState('')
  const dirty = useRef(false)
  const version = useRef(page.edited)
  const latest = useRef(edit)
  latest.current = edit
  const running = useRef<Promise<boolean> | null>(null)
  if (!dirty.current && !running.current) version.current = page.edited

  async function write(): Promise<boolean> {
    dirty.current = false
    setState('saving')
    try {
      const saved = await body(
        api.PUT('/api/pages/{page}', {
          params: { path: { page: page.id }, header: { 'If-Match': version.current } },
          body: latest.current,
        }),
        w.errors.away,
      )
      version.current = saved.page.edited
      client.setQueryData(['pages', page.id], saved.page)
      void client.invalidateQueries({ queryKey: ['pages'], exact: true })
      setFaults({})
      setProblem('')
      setState(dirty.current ? 'unsaved' : 'saved')
      return true
    } catch (caught) {
      dirty.current = true
      const known = caught instanceof ApiProblem ? caught : new ApiProblem(0, 'away', w.errors.away)
      setFaults(known.fields)
      setProblem(Object.keys(known.fields).length > 0 ? '' : known.message)
      setState(known.kind === 'stale' ? 'stale' : 'unsaved')
      return false
    }
  }
  /** Writes what is not written yet; one write at a time. */
  async function flush(): Promise<boolean> {
    // What was changed during a write is written after it: done is done only when nothing is left to write.
    while (running.current || dirty.current) {
      running.current ??= write()
      const good = await running.current
      running.current = null
      if (!good) return false
    }
    return true
  }
  const save = useRef(flush)
  save.current = flush
  // biome-ignore lint/correctness/useExhaustiveDependencies: a pause after each change of the draft.
  useEffect(() => {
    if (!dirty.current || state === 'stale') return
    const timer = setTimeout(() => void save.current(), pause)
    return () => clearTimeout(timer)
  }, [edit])
  useEffect(() => () => void save.current(), [])

  return {
    edit,
    state,
    faults,
    problem,
    flush,
    /** The version of the draft that stands here. */
    version: () => version.current,
    change(next: Partial<Api['PageContent']>) {
      dirty.current = true
      setState((s) => (s === 'stale' ? s : 'unsaved'))
      setEdit((e) => ({ ...e, draft: { ...e.draft, ...next } }))
    },
    readdress(address: string) {
      dirty.current = true
      setState((s) => (s === 'stale' ? s : 'unsaved'))
      setEdit((e) => ({ ...e, address }))
    },
    async overwrite() {
      const now = await body(
        api.GET('/api/pages/{page}', { params: { path: { page: page.id } } }),
        w.errors.away,
      )
      version.current = now.edited
      setState('unsaved')
      await flush()
    },
    async takeTheirs() {
      const now = await body(
        api.GET('/api/pages/{page}', { params: { path: { page: page.id } } }),
        w.errors.away,
      )
      dirty.current = false
      version.current = now.edited
      setEdit({ address: now.address, draft: now.draft })
      setState('saved')
    },
  }
}
