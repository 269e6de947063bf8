import { useState } from 'react'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'

/** The date of an album, said or not. */
export function AlbumDate({ dated, onSay }: { dated: string | null; onSay: (dated: string | null) => void }) {
  const [open, setOpen] = useState(false)
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.standing.date}
      trigger={
        <Button look="word" className={dated ? 'font-semibold' : 'text-quiet'}>
          {dated ? `${w.standing.dated} ${w.standing.day(dated)}` : w.standing.undated}
        </Button>
      }
    >
      <form
        className="grid justify-items-start gap-3 text-small"
        onSubmit={(e) => {
          e.preventDefault()
          setOpen(false)
          onSay(String(new FormData(e.currentTarget).get('dated')) || null)
        }}
      >
        <label className="grid gap-1">
          <span className="text-quiet">{w.standing.date}</span>
          <input
            type="date"
            name="dated"
            min="1800-01-01"
            max="2999-12-31"
            defaultValue={dated ?? ''}
            className="border-b border-strong-line bg-transparent pb-1 outline-none focus:border-plum"
          />
        </label>
        <span className="flex items-baseline gap-5">
          <Button look="next" type="submit">
            {w.standing.sayDate}
          </Button>
          {dated && (
            <Button
              look="word"
              onClick={() => {
                setOpen(false)
                onSay(null)
              }}
            >
              {w.standing.noDate}
            </Button>
          )}
        </span>
      </form>
    </Popover>
  )
}
