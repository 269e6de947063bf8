import { useNavigate } from '@tanstack/react-router'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useCallback, useEffect, useRef, useState } from 'react'
import { w } from '../../words'
import { useFigures } from '../shell/data'
import { hand, useHand } from '../shell/hand'
import { useKeys } from '../shell/keys'
import { tellProblem } from '../shell/news'
import { useBeneath } from './beneath'
import { Frame } from './Frame'
import { gap, useGrid } from './grid'
import { decidingKeys, useDecide } from './useDecide'
import { useDrag } from './useDrag'
import { useFlying } from './useFlying'
import { between, type SheetQuery, useSheet } from './useSheet'

/** A sheet of numbered frames over any number of photos; only those in view are in the document. */
export function Sheet({
  query,
  size,
  start,
  onOpen,
  onMove,
  empty,
}: {
  query: SheetQuery
  size: number
  /** The photo to begin at, when one comes back from its plate. */
  start?: number
  onOpen: (id: string, index: number) => void
  /** Moves a photo, or without one all in hand, before another or to the end; given where the order is made by hand. */
  onMove?: (photo: string | null, before: string | null) => void
  empty: React.ReactNode
}) {
  const scroller = useRef<HTMLDivElement>(null)
  const grid = useGrid(scroller, size)
  const held = useHand()
  const { beneath } = useBeneath()
  const arriving = (useFigures().data?.waiting ?? 0) > 0
  const [view, setView] = useState({ first: 0, last: 0 })
  const sheet = useSheet(query, view, arriving)
  const [cursor, setCursor] = useState(start ?? 0)
  const anchor = useRef(cursor)
  const toFocus = useRef<{ index: number; from: Element | null } | null>(null)
  const rows = Math.ceil(sheet.total / grid.columns)
  const virtual = useVirtualizer({
    count: rows,
    getScrollElement: () => scroller.current,
    estimateSize: () => grid.pitch,
    overscan: 2,
    // A frame late is not seen; a sheet that stops the wheel is.
    useFlushSync: false,
    initialOffset: Math.floor((start ?? 0) / Math.max(1, grid.columns)) * grid.pitch,
  })
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new pitch makes the old measures void.
  useEffect(() => virtual.measure(), [grid.pitch, grid.columns])
  const items = virtual.getVirtualItems()
  const first = (items[0]?.index ?? 0) * grid.columns
  const last = Math.min(Math.max(0, sheet.total - 1), ((items.at(-1)?.index ?? 0) + 1) * grid.columns - 1)
  useEffect(() => setView({ first, last }), [first, last])
  const flying = useFlying(virtual.scrollOffset ?? 0, virtual.scrollRect?.height ?? 0)

  const takeBetween = useCallback(
    async (a: number, b: number) => {
      const [low, high] = a < b ? [a, b] : [b, a]
      const ids = Array.from({ length: high - low + 1 }, (_, i) => sheet.at(low + i)?.id)
      try {
        const one = sheet.at(a)?.id ?? rememberedAnchor.current
        const other = sheet.at(b)?.id
        const found = ids.every((id) => id !== undefined)
          ? (ids as string[])
          : one && other
            ? await between(query, one, other)
            : []
        hand.take(found)
      } catch (problem) {
        tellProblem(problem)
      }
    },
    [sheet, query],
  )
  const rememberedAnchor = useRef<string | undefined>(undefined)

  // Of a hand too large to be listed, what is in view is asked about.
  const inView =
    items.length > 0 ? Array.from({ length: last - first + 1 }, (_, i) => sheet.at(first + i)?.id) : []
  const asking = held.whole ? '' : inView.filter((id) => id !== undefined).join()
  // biome-ignore lint/correctness/useExhaustiveDependencies: asked again when the hand has changed.
  useEffect(() => {
    if (asking) hand.ask(asking.split(',')).catch(tellProblem)
  }, [asking, held.count])

  // The same for all frames at all times, so that those that stay need not be drawn again while others go by.
  const opening = useRef((_: number) => {})
  opening.current = (index) => {
    const photo = sheet.at(index)
    if (photo) onOpen(photo.id, index)
  }
  const open = useCallback((index: number) => opening.current(index), [])
  const toggle = (index: number) => {
    const photo = sheet.at(index)
    if (!photo) return
    anchor.current = index
    rememberedAnchor.current = photo.id
    hand.toggle(photo.id)
  }
  const { drag, onPointer } = useDrag(scroller, grid, sheet.total, onMove !== undefined, {
    press: (index, e, onName) => {
      setCursor(index)
      if (onName) open(index)
      else if (e.shiftKey) void takeBetween(anchor.current, index)
      else toggle(index)
    },
    along: (from, to) => void takeBetween(from, to),
    drop: (from, slot) => {
      const photo = sheet.at(from)
      if (!photo || slot === from || slot === from + 1) return
      onMove?.(held.has(photo.id) ? null : photo.id, sheet.at(slot)?.id ?? null)
    },
  })

  function go(to: number, take: boolean) {
    const next = Math.max(0, Math.min(sheet.total - 1, to))
    virtual.scrollToIndex(Math.floor(next / grid.columns))
    if (take) void takeBetween(cursor, next)
    setCursor(next)
    toFocus.current = { index: next, from: document.activeElement }
    focusIt()
  }
  /** The frame one goes to may still have to be drawn, or read; whoever has gone elsewhere meanwhile stays there. */
  function focusIt() {
    const wanted = toFocus.current
    const frame = wanted && document.getElementById(`frame-${wanted.index}`)
    if (!frame) return
    toFocus.current = null
    const at = document.activeElement
    if (at === wanted.from || at === document.body || scroller.current?.contains(at))
      frame.focus({ preventScroll: true })
  }
  useEffect(focusIt)
  const decide = useDecide()
  const navigate = useNavigate()
  useKeys(
    decidingKeys((what) => {
      const photo = sheet.at(cursor)
      if (held.count > 0) decide.mutate(what)
      else if (photo) {
        decide.mutate({ photo: photo.id, ...what })
        // Where the narrowing lets go of what is decided, the next one comes to stand here by itself.
        if (!query.decision && !query.rating) go(cursor + 1, false)
      }
    }),
  )
  useKeys({
    ArrowRight: (e) => go(cursor + 1, e.shiftKey),
    ArrowLeft: (e) => go(cursor - 1, e.shiftKey),
    ArrowDown: (e) => go(cursor + grid.columns, e.shiftKey),
    ArrowUp: (e) => go(cursor - grid.columns, e.shiftKey),
    Home: () => go(0, false),
    End: () => go(sheet.total - 1, false),
    ' ': () => toggle(cursor),
    Enter: () => open(cursor),
    Escape: () => hand.clear(),
    q: () => {
      const of = sheet.at(cursor)?.id
      if (of) void navigate({ to: '/workroom/repeats', search: { of } })
    },
  })

  const inDrag = (i: number) =>
    drag !== null && !onMove && i >= Math.min(drag.from, drag.to) && i <= Math.max(drag.from, drag.to)
  const marker =
    drag && onMove ? { column: drag.slot % grid.columns, row: Math.floor(drag.slot / grid.columns) } : null
  return (
    <div
      ref={scroller}
      className="sheet-scroller relative min-h-0 flex-1 overflow-y-auto"
      data-testid="sheet"
    >
      {sheet.known && sheet.total === 0 ? (
        empty
      ) : (
        <div
          role="listbox"
          aria-multiselectable
          aria-label={w.sheet.label}
          tabIndex={-1}
          className="relative outline-none"
          style={{ height: virtual.getTotalSize() }}
        >
          {grid.width > 0 &&
            items.map((row) => (
              <div
                key={row.key}
                role="presentation"
                className="absolute left-0 flex"
                style={{ top: row.start, gap, height: grid.pitch, contain: 'layout style' }}
              >
                {Array.from(
                  { length: Math.min(grid.columns, sheet.total - row.index * grid.columns) },
                  (_, c) => {
                    const index = row.index * grid.columns + c
                    const photo = sheet.at(index)
                    return (
                      <Frame
                        key={index}
                        photo={photo}
                        index={index}
                        total={sheet.total}
                        size={grid}
                        beneath={beneath}
                        numbered={onMove !== undefined}
                        held={photo !== undefined && held.has(photo.id)}
                        focused={index === cursor}
                        marked={inDrag(index)}
                        flying={flying}
                        onPointer={onPointer}
                        onOpen={open}
                        onFocus={setCursor}
                      />
                    )
                  },
                )}
              </div>
            ))}
          {marker && (
            <div
              aria-hidden
              className="pointer-events-none absolute w-[3px] bg-plum"
              style={{
                left: Math.max(0, marker.column * (grid.cell + gap) - gap / 2 - 1),
                top: marker.row * grid.pitch,
                height: grid.picture,
              }}
            />
          )}
        </div>
      )}
    </div>
  )
}
