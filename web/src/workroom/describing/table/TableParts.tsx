import { useState } from 'react'
import type { Api } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { Popover } from '../../../kit/Popover'
import { rendition } from '../../../kit/renditions'
import { w } from '../../../words'
import { fields } from '../../plate/plateEdit'
import type { WordField } from '../pattern'
import type { Table } from './useTable'

export function Says({
  state,
  onAgain,
}: {
  state: 'clean' | 'saving' | 'saved' | { problem: string }
  onAgain: () => void
}) {
  return (
    <span role="status" className="text-quiet">
      {state === 'saving' && w.plate.saving}
      {state === 'saved' && w.plate.saved}
      {typeof state === 'object' && (
        <>
          {w.plate.unsaved} {state.problem}{' '}
          <Button look="word" onClick={onAgain}>
            {w.errors.again}
          </Button>
        </>
      )}
    </span>
  )
}

export function Columns({
  columns,
  onShow,
}: {
  columns: readonly WordField[]
  onShow: (name: WordField, on: boolean) => void
}) {
  const [open, setOpen] = useState(false)
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.table.columns}
      trigger={<Button look="word">{w.table.columns}</Button>}
    >
      <fieldset className="grid gap-1.5">
        {fields.map((name) => (
          <label key={name} className="flex items-baseline gap-2">
            <input
              type="checkbox"
              className="accent-plum"
              checked={columns.includes(name)}
              onChange={(e) => onShow(name, e.target.checked)}
            />
            {w.plate.fields[name]}
          </label>
        ))}
      </fieldset>
    </Popover>
  )
}

/** The words of the row one stands in, as visitors come to see them. */
export function AsSeen({
  photo,
  title,
  caption,
}: {
  photo: Api['SheetPhoto'] | undefined
  title: string
  caption: string
}) {
  return (
    <div className="flex h-[132px] items-start gap-5 border-t border-ink py-3">
      <span className="grid h-[106px] w-[160px] shrink-0 place-items-center bg-well">
        {photo?.state === 'ready' && (
          <img src={rendition(photo.picture, 480)} alt="" className="max-h-[106px] max-w-[160px]" />
        )}
      </span>
      <span className="min-w-0 max-w-[44rem]">
        <span className="block text-[0.71875rem] text-quiet">{w.table.asSeen}</span>
        <span className="block truncate font-display text-lead font-semibold">
          {title || <span className="text-quiet">{w.table.noTitle}</span>}
        </span>
        <span className="line-clamp-2 whitespace-pre-line">{caption}</span>
      </span>
    </div>
  )
}

/** Cells that somebody else wrote while they were typed. */
export function Conflicts({ table }: { table: Table }) {
  const [first] = table.conflicts
  if (!first) return null
  return (
    <div className="mt-3 border-l-[3px] border-plum pl-3 text-small">
      <p>
        {w.table.conflict(table.conflicts.length)} {w.plate.theirs}: “{first.theirs}”. {w.table.mine}: “
        {first.mine}”.
      </p>
      <span className="flex gap-4">
        <Button look="word" onClick={() => table.decide(true)}>
          {w.plate.keepMine}
        </Button>
        <Button look="word" onClick={() => table.decide(false)}>
          {w.plate.takeTheirs}
        </Button>
      </span>
    </div>
  )
}
