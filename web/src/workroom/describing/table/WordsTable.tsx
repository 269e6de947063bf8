import { Link } from '@tanstack/react-router'
import { useVirtualizer } from '@tanstack/react-virtual'
import { type ClipboardEvent, type KeyboardEvent, useEffect, useRef, useState } from 'react'
import { Button } from '../../../kit/Button'
import { w } from '../../../words'
import { fields } from '../../plate/plateEdit'
import { Heading } from '../../shell/Station'
import type { WordField } from '../pattern'
import { cells } from './cells'
import { type Leave, TableCell } from './TableCell'
import { AsSeen, Columns, Conflicts, Says } from './TableParts'
import { height, TableRow, template } from './TableRow'
import { useTable } from './useTable'

const kept = 'jovitar-table-columns'

function columnsKept(): WordField[] {
  const said = (localStorage.getItem(kept) ?? '').split(',')
  const known = fields.filter((f) => said.includes(f))
  return known.length > 0 ? known : ['title', 'caption', 'alt']
}

/** Words typed down as a table: what is in hand in its order, a word a column, each cell written as one leaves it. */
export function WordsTable() {
  const { table, ids, count } = useTable()
  const [columns, setColumns] = useState(columnsKept)
  const [at, setAt] = useState({ row: 0, column: 0, to: 0 })
  const [typing, setTyping] = useState<string | null>(null)
  /** What the cell said when one began to type in it. */
  const began = useRef('')
  const scroller = useRef<HTMLTableSectionElement>(null)
  const grid = useRef<HTMLDivElement>(null)
  const virtual = useVirtualizer({
    count: ids.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 12,
  })
  const items = virtual.getVirtualItems()
  const [first, last] = [items[0]?.index ?? 0, items.at(-1)?.index ?? 0]
  useEffect(() => {
    const timer = setTimeout(() => void table.read(ids.slice(first, last + 1)), 40)
    return () => clearTimeout(timer)
  }, [table, ids, first, last])

  const field = columns[at.column] ?? 'title'
  const current = ids[at.row]
  const [low, high] = at.row < at.to ? [at.row, at.to] : [at.to, at.row]

  /** Where one begins is chosen, but not entered, until one has been there. */
  const entered = useRef(false)
  useEffect(() => grid.current?.focus(), [])
  function go(row: number, column: number, extend = false) {
    entered.current = true
    const r = Math.max(0, Math.min(ids.length - 1, row))
    const c = Math.max(0, Math.min(columns.length - 1, column))
    setAt(extend ? { ...at, to: r } : { row: r, column: c, to: r })
    virtual.scrollToIndex(r)
    grid.current?.focus({ preventScroll: true })
  }
  function begin(text?: string) {
    began.current = current ? table.text(current, field) : ''
    setTyping(text ?? began.current)
  }
  function commit() {
    if (typing !== null && current) table.type([{ id: current, field, text: typing, was: began.current }])
    setTyping(null)
  }
  function write(rows: readonly number[], text: string) {
    table.type(rows.flatMap((r) => (ids[r] ? [{ id: ids[r], field, text }] : [])))
  }
  const range = () => Array.from({ length: high - low + 1 }, (_, i) => low + i)
  const fillDown = () => ids[low] && write(range(), table.text(ids[low], field))

  function onKey(e: KeyboardEvent) {
    const step: Record<string, readonly [number, number]> = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
      PageUp: [-12, 0],
      PageDown: [12, 0],
    }
    if (e.key === 'Tab' && !(at.column === (e.shiftKey ? 0 : columns.length - 1)))
      go(at.row, at.column + (e.shiftKey ? -1 : 1))
    else if (step[e.key]) {
      const [rows, cells] = step[e.key] ?? [0, 0]
      if (e.shiftKey && cells === 0) go(at.to + rows, at.column, true)
      else go(at.row + rows, at.column + cells)
    } else if (e.key === 'Home') go(e.ctrlKey ? 0 : at.row, 0)
    else if (e.key === 'End') go(e.ctrlKey ? ids.length - 1 : at.row, columns.length - 1)
    else if (e.key === 'Enter' || e.key === 'F2') begin()
    else if (e.key === 'Delete' || e.key === 'Backspace') write(range(), '')
    else if (e.key.length === 1 && !e.ctrlKey && !e.metaKey && !e.altKey) begin(e.key)
    else return
    e.preventDefault()
    e.stopPropagation()
  }

  /** A block of cells out of a spreadsheet: rows by line, cells by tab; it fills from where one stands. One cell fills what is chosen. */
  function onPaste(e: ClipboardEvent) {
    if (typing !== null) return
    const block = cells(e.clipboardData.getData('text/plain'))
    if (block.length === 0) return
    e.preventDefault()
    if (block.length === 1 && block[0]?.length === 1) write(range(), block[0][0] ?? '')
    else
      table.type(
        block.flatMap((line, r) =>
          line.flatMap((text, c) => {
            const [id, name] = [ids[at.row + r], columns[at.column + c]]
            return id && name ? [{ id, field: name, text }] : []
          }),
        ),
      )
  }

  function press(row: number, column: number, extend: boolean) {
    const here = row === at.row && column === at.column
    if (here && typing !== null) return
    commit()
    if (here && !extend && entered.current) begin()
    else go(row, column, extend && column === at.column)
  }
  function leave(to: Leave) {
    if (to === 'drop') setTyping(null)
    else commit()
    if (to === 'down') go(at.row + 1, at.column)
    else if (to === 'right') go(at.row, at.column + 1)
    else if (to === 'left') go(at.row, at.column - 1)
    else if (to === 'drop') grid.current?.focus()
  }

  function show(name: WordField, on: boolean) {
    const next = fields.filter((f) => (f === name ? on : columns.includes(f)))
    if (next.length === 0) return
    localStorage.setItem(kept, next.join())
    setColumns(next)
    setAt({ ...at, column: 0 })
  }

  const row = current ? table.rows.get(current) : undefined
  return (
    <div className="flex h-full flex-col px-[30px] pt-7">
      <Heading
        title={w.table.title(count)}
        right={
          <span className="flex items-baseline gap-5 pb-1 text-small">
            <Says state={table.state} onAgain={() => table.retry()} />
            {high > low && (
              <Button look="word" onClick={fillDown}>
                {w.table.fillDown(high - low + 1)}
              </Button>
            )}
            <Columns columns={columns} onShow={show} />
            <Link to="/workroom/describe" className="underline decoration-strong-line underline-offset-[5px]">
              {w.table.plate}
            </Link>
          </span>
        }
      />
      <Conflicts table={table} />
      {count > ids.length && (
        <p className="mt-2 text-small text-quiet">{w.hand.firstOf(ids.length, count)}</p>
      )}
      <div
        ref={grid}
        role="application"
        aria-label={w.table.title(count)}
        aria-activedescendant={`cell-${at.row}-${at.column}`}
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it has the focus and keys of its own, and names the cell one stands at.
        tabIndex={0}
        className="mt-4 flex min-h-0 flex-1 flex-col outline-none"
        onKeyDown={typing === null ? onKey : undefined}
        onPaste={onPaste}
      >
        <table aria-rowcount={ids.length + 1} className="flex min-h-0 flex-1 flex-col">
          <thead className="block">
            <tr
              aria-rowindex={1}
              className="grid border-b border-ink pb-1 text-left text-small text-quiet"
              style={{ gridTemplateColumns: template(columns.length) }}
            >
              <th className="font-normal">{w.table.photo}</th>
              {columns.map((name) => (
                <th key={name} className="px-2 font-normal">
                  {w.plate.fields[name]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody ref={scroller} className="block min-h-0 flex-1 overflow-y-auto">
            <tr aria-hidden className="block" style={{ height: items[0]?.start ?? 0 }} />
            {items.map((item) => (
              <TableRow
                key={ids[item.index]}
                row={table.rows.get(ids[item.index] ?? '')}
                index={item.index}
                columns={columns}
                at={item.index === at.row ? at.column : null}
                chosen={item.index >= low && item.index <= high ? at.column : null}
                text={(name) => table.text(ids[item.index] ?? '', name)}
                onPress={(c, e) => press(item.index, c, e)}
                cell={
                  typing === null ? null : (
                    <TableCell
                      label={`${w.plate.fields[field]}, ${item.index + 1}`}
                      text={typing}
                      onType={setTyping}
                      onLeave={leave}
                    />
                  )
                }
              />
            ))}
            <tr
              aria-hidden
              className="block"
              style={{ height: virtual.getTotalSize() - (items.at(-1)?.end ?? 0) }}
            />
          </tbody>
        </table>
      </div>
      <AsSeen
        photo={row?.photo}
        title={current ? table.text(current, 'title') : ''}
        caption={current ? table.text(current, 'caption') : ''}
      />
    </div>
  )
}
