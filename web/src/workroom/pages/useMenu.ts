import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'
import { entries, type Line, lines } from './menu'

const pause = 600

/** The menu while it is arranged: it saves by itself, and says when somebody else has changed it meanwhile. */
export function useMenu(menu: Api['OpenedMenu']) {
  const client = useQueryClient()
  const [all, setAll] = useState<Line[]>(() => lines(menu.entries))
  const [state, setState] = useState<'saved' | 'unsaved' | 'stale'>('saved')
  const [faults, setFaults] = useState<Record<string, string>>({})
  const version = useRef(menu.edited)
  const latest = useRef(all)
  const dirty = useRef(false)
  const running = useRef(false)

  function adopt(now: Api['OpenedMenu']) {
    version.current = now.edited
    latest.current = lines(now.entries)
    setAll(latest.current)
    setState('saved')
    setFaults({})
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the server has another version.
  useEffect(() => {
    if (!dirty.current && !running.current && menu.edited > version.current) adopt(menu)
  }, [menu.edited])

  async function save() {
    if (running.current) return
    running.current = true
    try {
      while (dirty.current) {
        dirty.current = false
        const saved = await body(
          api.PUT('/api/menu', {
            params: { header: { 'If-Match': version.current } },
            body: { entries: entries(latest.current) },
          }),
          w.errors.away,
        )
        version.current = saved.menu.edited
        client.setQueryData(['menu'], saved.menu)
        setFaults({})
        setState(dirty.current ? 'unsaved' : 'saved')
      }
    } catch (caught) {
      dirty.current = true
      const known = caught instanceof ApiProblem ? caught : new ApiProblem(0, 'away', w.errors.away)
      setFaults(Object.keys(known.fields).length > 0 ? known.fields : { entries: known.message })
      setState(known.kind === 'stale' ? 'stale' : 'unsaved')
    } finally {
      running.current = false
    }
  }
  const saving = useRef(save)
  saving.current = save
  // biome-ignore lint/correctness/useExhaustiveDependencies: a pause after each change.
  useEffect(() => {
    if (!dirty.current || state === 'stale') return
    const timer = setTimeout(() => void saving.current(), pause)
    return () => clearTimeout(timer)
  }, [all])
  useEffect(
    () => () => {
      if (dirty.current) void saving.current()
    },
    [],
  )

  async function read() {
    return body(api.GET('/api/menu'), w.errors.away)
  }
  return {
    all,
    state,
    faults,
    change(next: Line[]) {
      dirty.current = true
      latest.current = next
      setState((s) => (s === 'stale' ? s : 'unsaved'))
      setAll(next)
    },
    async takeTheirs() {
      dirty.current = false
      adopt(await read())
    },
    async overwrite() {
      version.current = (await read()).edited
      setState('unsaved')
      await save()
    },
  }
}
