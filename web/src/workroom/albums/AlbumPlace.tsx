import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { PlaceVerbs } from '../standing/PlaceVerbs'
import type { Standing } from '../standing/useStand'

/** One category that an album stands in; pressed, what can be done about it. */
export function AlbumPlace({
  album,
  place,
  onSay,
}: {
  album: Api['AlbumLine']
  place: { category: Api['CategoryLine']; putFirst: boolean }
  onSay: (next: Partial<Standing>) => void
}) {
  const [open, setOpen] = useState(false)
  const { category, putFirst } = place
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={category.name}
      trigger={
        <Button look="word" className={`font-semibold ${category.hiddenBy ? 'text-quiet' : ''}`}>
          {category.name}
          {putFirst && <span className="font-normal text-quiet"> ({w.standing.first})</span>}
        </Button>
      }
    >
      <p className="mb-2 font-semibold">{category.name}</p>
      {category.hiddenBy && <p className="mb-2 text-small text-quiet">{w.categories.hidden}</p>}
      <p className="grid justify-items-start gap-2 text-small">
        <PlaceVerbs
          standing={album.standing}
          category={category.id}
          onPut={(categories) => {
            setOpen(false)
            onSay({ categories })
          }}
        />
        <Link
          to="/workroom/categories"
          search={{ open: category.id }}
          className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
        >
          {w.standing.see}
        </Link>
      </p>
    </Popover>
  )
}
