import { type QueryClient, type QueryKey, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { ApiProblem } from '../../api/client'
import { w } from '../../words'

/** What is kept on the server once for the whole site, and how it is read and written. */
export type Kept<Seen, Value> = {
  key: QueryKey
  /** What of it is worked on. */
  value: (seen: Seen) => Value
  /** Counts its edits. */
  version: (seen: Seen) => number
  read: () => Promise<Seen>
  /** Writes a value over a version; refused as stale when it is no longer that. What was written in part is thrown as {@link PartlyWritten}. */
  write: (value: Value, version: number) => Promise<Seen>
  /** What else is another then, whether or not somebody still looks at it. */
  after?: (client: QueryClient, now: Seen, before: Seen | undefined) => void
  /** Waited after each change, milliseconds. */
  pause: number
}

/** Some of it was written, and the rest was not, with why. */
export class PartlyWritten<Seen> {
  constructor(
    readonly seen: Seen,
    readonly problem: unknown,
  ) {}
}

/** Something of the whole site while somebody works on it: it saves by itself, and says when somebody else has changed it meanwhile. */
export function useSaved<Seen, Value>(seen: Seen, kept: Kept<Seen, Value>) {
  const client = useQueryClient()
  const [value, setValue] = useState(() => kept.value(seen))
  const [state, setState] = useState<'saved' | 'unsaved' | 'stale'>('saved')
  const [problem, setProblem] = useState<ApiProblem | null>(null)
  const version = useRef(kept.version(seen))
  const latest = useRef(value)
  const dirty = useRef(false)
  const running = useRef<Promise<void> | null>(null)

  function adopt(now: Seen) {
    version.current = kept.version(now)
    latest.current = kept.value(now)
    setValue(latest.current)
    setState('saved')
    setProblem(null)
  }
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the server has another version.
  useEffect(() => {
    if (!dirty.current && !running.current && kept.version(seen) > version.current) adopt(seen)
  }, [kept.version(seen)])

  /** Writes, and takes over what the server has then. */
  async function take(writing: Promise<Seen>) {
    const now = await writing
    version.current = kept.version(now)
    const before = client.getQueryData<Seen>(kept.key)
    client.setQueryData(kept.key, now)
    kept.after?.(client, now, before)
    setProblem(null)
    setState(dirty.current ? 'unsaved' : 'saved')
  }
  function fail(caught: unknown) {
    const known = caught instanceof ApiProblem ? caught : new ApiProblem(0, 'away', w.errors.away)
    setProblem(known)
    setState(known.kind === 'stale' ? 'stale' : 'unsaved')
  }
  async function writeAll() {
    try {
      while (dirty.current) {
        dirty.current = false
        await take(kept.write(latest.current, version.current))
      }
    } catch (caught) {
      if (caught instanceof PartlyWritten) await take(Promise.resolve(caught.seen))
      dirty.current = true
      fail(caught instanceof PartlyWritten ? caught.problem : caught)
    }
  }
  async function save() {
    running.current ??= writeAll().finally(() => {
      running.current = null
    })
    await running.current
  }
  const saving = useRef(save)
  saving.current = save
  // biome-ignore lint/correctness/useExhaustiveDependencies: a pause after each change.
  useEffect(() => {
    if (!dirty.current || state === 'stale') return
    const timer = setTimeout(() => void saving.current(), kept.pause)
    return () => clearTimeout(timer)
  }, [value])
  useEffect(
    () => () => {
      if (dirty.current) void saving.current()
    },
    [],
  )

  return {
    value,
    state,
    problem,
    /** Makes of what is there by now what is to be. */
    change(next: (latest: Value) => Value) {
      dirty.current = true
      latest.current = next(latest.current)
      setState((s) => (s === 'stale' ? s : 'unsaved'))
      setValue(latest.current)
    },
    /** Does something else with what is kept, once all is saved. */
    async afterwards(write: (version: number) => Promise<Seen>) {
      await save()
      if (!dirty.current) await take(write(version.current)).catch(fail)
    },
    async takeTheirs() {
      dirty.current = false
      adopt(await kept.read())
    },
    async overwrite() {
      version.current = kept.version(await kept.read())
      setState('unsaved')
      await save()
    },
  }
}
