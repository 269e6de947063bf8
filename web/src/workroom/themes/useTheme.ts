import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'

export type Theme = Api['Theme']

const pause = 300
const read = () => body(api.GET('/api/theme'), w.errors.away)
export const asRead = { queryKey: ['theme'], queryFn: read }

/** How the site is to look, while somebody works on it: it saves by itself, and says when somebody else has changed it meanwhile. */
export function useTheme(site: Api['SiteTheme']) {
  const client = useQueryClient()
  const [theme, setTheme] = useState(site.opened.draft)
  const [state, setState] = useState<'saved' | 'unsaved' | 'stale'>('saved')
  const [problem, setProblem] = useState('')
  const version = useRef(site.opened.edited)
  const latest = useRef(theme)
  const dirty = useRef(false)
  const running = useRef<Promise<void> | null>(null)

  function adopt(now: Api['SiteTheme']) {
    version.current = now.opened.edited
    latest.current = now.opened.draft
    setTheme(now.opened.draft)
    setState('saved')
    setProblem('')
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the server has another version.
  useEffect(() => {
    if (!dirty.current && !running.current && site.opened.edited > version.current) adopt(site)
  }, [site.opened.edited])

  function took(written: Api['ThemeWritten']) {
    version.current = written.theme.opened.edited
    client.setQueryData(['theme'], written.theme)
    setProblem('')
    setState(dirty.current ? 'unsaved' : 'saved')
  }
  function failed(caught: unknown) {
    const known = caught instanceof ApiProblem ? caught : new ApiProblem(0, 'away', w.errors.away)
    setProblem(known.message)
    setState(known.kind === 'stale' ? 'stale' : 'unsaved')
  }
  const header = () => ({ params: { header: { 'If-Match': version.current } } })

  async function write() {
    try {
      while (dirty.current) {
        dirty.current = false
        took(await body(api.PUT('/api/theme', { ...header(), body: latest.current }), w.errors.away))
      }
    } catch (caught) {
      dirty.current = true
      failed(caught)
    }
  }
  async function save() {
    running.current ??= write().finally(() => {
      running.current = null
    })
    await running.current
  }
  const saving = useRef(save)
  saving.current = save
  // biome-ignore lint/correctness/useExhaustiveDependencies: a pause after each change.
  useEffect(() => {
    if (!dirty.current || state === 'stale') return
    const timer = setTimeout(() => void saving.current(), pause)
    return () => clearTimeout(timer)
  }, [theme])
  useEffect(
    () => () => {
      if (dirty.current) void saving.current()
    },
    [],
  )

  return {
    theme,
    state,
    problem,
    change(next: Partial<Theme>) {
      dirty.current = true
      latest.current = { ...latest.current, ...next }
      setState((s) => (s === 'stale' ? s : 'unsaved'))
      setTheme(latest.current)
    },
    async publish() {
      await save()
      if (dirty.current) return
      try {
        took(await body(api.POST('/api/theme/publishing', header()), w.errors.away))
      } catch (caught) {
        failed(caught)
      }
    },
    async takeTheirs() {
      dirty.current = false
      adopt(await read())
    },
    async overwrite() {
      version.current = (await read()).opened.edited
      setState('unsaved')
      await save()
    },
  }
}
