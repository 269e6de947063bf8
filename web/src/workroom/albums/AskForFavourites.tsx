import { useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { fieldOf, momentOf } from '../access/audience/data'

type Choosing = NonNullable<Api['AlbumOffers']['choosing']>

const field = 'border-b border-strong-line bg-transparent pb-1 outline-none focus:border-plum'

/** Has an album ask those whom it knows for their favourites: how many, until when, and in which words. */
export function AskForFavourites({
  choosing,
  says,
  onSay,
}: {
  choosing: Choosing | null
  /** What is so now, as the end of a sentence. */
  says: string
  onSay: (choosing: Choosing | null) => void
}) {
  const [open, setOpen] = useState(false)
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.offers.ask}
      wide
      trigger={
        <Button look="word" className={choosing ? 'font-semibold' : ''}>
          {says}
        </Button>
      }
    >
      <form
        className="grid gap-3.5 text-small"
        onSubmit={(e) => {
          e.preventDefault()
          const said = new FormData(e.currentTarget)
          setOpen(false)
          onSay({
            most: said.get('most') ? Number(said.get('most')) : null,
            until: momentOf(String(said.get('until'))),
            asks: String(said.get('asks')),
          })
        }}
      >
        <p className="text-quiet">{w.offers.askLead}</p>
        <span className="flex flex-wrap gap-x-6 gap-y-3">
          <label className="grid gap-1">
            <span className="text-quiet">{w.offers.most}</span>
            <input
              name="most"
              type="number"
              min={1}
              max={1000}
              placeholder={w.offers.mostHint}
              defaultValue={choosing?.most ?? ''}
              className={`w-32 tabular-nums ${field}`}
            />
          </label>
          <label className="grid gap-1">
            <span className="text-quiet">{w.offers.until}</span>
            <input
              name="until"
              type="datetime-local"
              defaultValue={fieldOf(choosing?.until)}
              className={field}
            />
          </label>
        </span>
        <label className="grid gap-1">
          <span className="text-quiet">{w.offers.asks}</span>
          <textarea
            name="asks"
            rows={3}
            maxLength={400}
            placeholder={w.offers.asksHint}
            defaultValue={choosing?.asks ?? ''}
            className={`w-full resize-none ${field}`}
          />
        </label>
        <span className="flex items-baseline gap-5">
          <Button look="next" type="submit">
            {choosing ? w.offers.sayChange : w.offers.sayAsk}
          </Button>
          {choosing && (
            <Button
              look="word"
              onClick={() => {
                setOpen(false)
                onSay(null)
              }}
            >
              {w.offers.stop}
            </Button>
          )}
        </span>
      </form>
    </Popover>
  )
}
