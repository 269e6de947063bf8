import type { ReactNode } from 'react'
import type { Api } from '../../../api/client'
import { rendition } from '../../../kit/renditions'
import type { WordField } from '../pattern'

export const height = 46
export const template = (columns: number) => `200px repeat(${columns}, minmax(0, 1fr))`

/** A photo's row of the table. */
export function TableRow({
  row,
  index,
  columns,
  at,
  chosen,
  text,
  onPress,
  cell,
}: {
  row: Api['TableRow'] | undefined
  index: number
  columns: readonly WordField[]
  /** The column one stands at, and the one of which this row is chosen; null in other rows. */
  at: number | null
  chosen: number | null
  text: (name: WordField) => string
  onPress: (column: number, extend: boolean) => void
  /** What stands where one types; null while one does not. */
  cell: ReactNode
}) {
  const photo = row?.photo
  return (
    <tr
      aria-rowindex={index + 2}
      className="grid border-b border-line"
      style={{ height, gridTemplateColumns: template(columns.length) }}
    >
      <th scope="row" className="flex items-center gap-2 overflow-hidden pr-2 text-left font-normal">
        <span className="w-7 shrink-0 text-right text-[0.6875rem] text-quiet tabular-nums">{index + 1}</span>
        <span className="grid h-10 w-14 shrink-0 place-items-center">
          {photo?.state === 'ready' && (
            <img src={rendition(photo.picture, 480)} alt="" className="max-h-10 max-w-14" />
          )}
        </span>
        <span className="truncate text-[0.6875rem] text-quiet">{photo?.fileName}</span>
      </th>
      {columns.map((name, c) => (
        // biome-ignore lint/a11y/useKeyWithClickEvents: keys are the table's.
        <td
          key={name}
          id={`cell-${index}-${c}`}
          aria-current={c === at || undefined}
          className={`relative overflow-hidden px-2 py-1 text-small leading-[1.35] ${c === chosen ? 'bg-plum-wash' : ''} ${c === at ? 'outline-2 -outline-offset-2 outline-plum' : ''}`}
          onClick={(e) => onPress(c, e.shiftKey)}
        >
          {c === at && cell !== null ? (
            cell
          ) : (
            <span className="line-clamp-2 whitespace-pre-line">{text(name)}</span>
          )}
        </td>
      ))}
    </tr>
  )
}
