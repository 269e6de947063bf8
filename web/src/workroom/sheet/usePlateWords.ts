import { useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { w } from '../../words'

export type Field = 'title' | 'caption' | 'alt' | 'credit'
type Change = Partial<Record<Field, string>> & { tags?: string[]; categories?: string[] }
export type Saving = 'clean' | 'unsaved' | 'saving' | 'saved' | 'stale' | { problem: string }

const pause = 700

/**
 * The words of one plate while they are typed. They save by themselves after a pause, one write at a time; when somebody else
 * wrote in between, nothing is overwritten and nothing typed is lost until one decides.
 */
export function usePlateWords(plate: Api['Plate']) {
  const client = useQueryClient()
  const [typed, setTyped] = useState<Partial<Record<Field, string>>>({})
  const [saving, setSaving] = useState<Saving>('clean')
  const pending = useRef<Change>({})
  const version = useRef(plate.version)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const busy = useRef(false)
  const stale = useRef(false)
  if (!busy.current && Object.keys(pending.current).length === 0) version.current = plate.version

  const flush = useCallback(async () => {
    clearTimeout(timer.current)
    if (busy.current || stale.current || Object.keys(pending.current).length === 0) return
    busy.current = true
    const change = pending.current
    pending.current = {}
    setSaving('saving')
    try {
      const saved = await body(
        api.PATCH('/api/photos/{photo}', {
          params: { path: { photo: plate.id }, header: { 'If-Match': version.current } },
          body: {
            title: change.title ?? null,
            caption: change.caption ?? null,
            alt: change.alt ?? null,
            credit: change.credit ?? null,
            tags: change.tags ?? null,
            categories: change.categories ?? null,
            decision: null,
          },
        }),
        w.errors.away,
      )
      version.current = saved.version
      client.setQueryData(['plate', plate.id], saved)
      for (const key of ['sheet', 'figures', 'tags']) void client.invalidateQueries({ queryKey: [key] })
      setSaving('saved')
    } catch (problem) {
      pending.current = { ...change, ...pending.current }
      if (problem instanceof ApiProblem && problem.kind === 'stale') {
        stale.current = true
        await client.invalidateQueries({ queryKey: ['plate', plate.id] })
        setSaving('stale')
      } else setSaving({ problem: problem instanceof Error ? problem.message : w.errors.away })
    }
    busy.current = false
    if (Object.keys(pending.current).length > 0 && document.visibilityState === 'visible')
      timer.current = setTimeout(() => void retry.current(), 4000)
  }, [client, plate.id])
  // A write that the server refused for good is not repeated by itself; one that did not reach it is.
  const retry = useRef<() => Promise<void>>(async () => {})
  retry.current = async () => {
    if (typeof saving === 'object') await flush()
  }

  useEffect(() => () => void flush(), [flush])

  function change(next: Change, at: 'pause' | 'once') {
    pending.current = { ...pending.current, ...next }
    if (saving === 'stale') return
    setSaving('unsaved')
    clearTimeout(timer.current)
    if (at === 'once') void flush()
    else timer.current = setTimeout(() => void flush(), pause)
  }

  return {
    saving,
    words: { title: plate.title, caption: plate.caption, alt: plate.alt, credit: plate.credit, ...typed },
    /** Fields whose words here differ from what somebody else wrote. */
    conflicts:
      saving === 'stale'
        ? (Object.keys(typed) as Field[]).filter(
            (f) => pending.current[f] !== undefined && pending.current[f] !== plate[f],
          )
        : [],
    type(field: Field, text: string) {
      setTyped((t) => ({ ...t, [field]: text }))
      change({ [field]: text }, 'pause')
    },
    set: (next: { tags?: string[]; categories?: string[] }) => change(next, 'once'),
    flush: () => void flush(),
    keepMine() {
      stale.current = false
      version.current = plate.version
      void flush()
    },
    takeTheirs() {
      stale.current = false
      pending.current = {}
      setTyped({})
      setSaving('clean')
    },
  }
}
