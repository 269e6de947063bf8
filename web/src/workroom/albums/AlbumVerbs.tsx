import { useState } from 'react'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useHand } from '../shell/hand'
import { useKeys } from '../shell/keys'

/** What can be done in an album with the photos in hand. */
export function AlbumVerbs({
  last,
  one,
  holds,
  onMove,
  onTakeOut,
  onCover,
}: {
  last: number
  one: boolean
  /** Whether it fills itself, so that what is taken out is held. */
  holds: boolean
  /** Missing where nobody moves photos by hand. */
  onMove: ((position: number) => void) | undefined
  onTakeOut: () => void
  onCover: () => void
}) {
  const [open, setOpen] = useState(false)
  const some = useHand().count > 0
  useKeys({ m: () => onMove && setOpen(true), o: onTakeOut, v: () => one && onCover() }, some)
  return (
    <>
      {onMove && (
        <Popover
          open={open}
          onOpenChange={setOpen}
          label={w.albums.moveTo}
          trigger={
            <Button look="word" hint="M">
              {w.albums.moveTo}
            </Button>
          }
        >
          <form
            className="flex items-baseline gap-3"
            onSubmit={(e) => {
              e.preventDefault()
              onMove(Number(new FormData(e.currentTarget).get('position')) - 1)
              setOpen(false)
            }}
          >
            <label className="flex items-baseline gap-2">
              {w.albums.position}
              <input
                name="position"
                type="number"
                min={1}
                max={Math.max(1, last)}
                required
                defaultValue={1}
                className="w-20 border-b border-strong-line bg-transparent text-right tabular-nums outline-none focus:border-plum"
              />
            </label>
            <Button type="submit" look="next">
              {w.albums.move}
            </Button>
          </form>
        </Popover>
      )}
      <Button look="word" hint="O" onClick={onTakeOut}>
        {holds ? w.albums.filling.hold : w.albums.takeOut}
      </Button>
      {one && (
        <Button look="word" hint="V" onClick={onCover}>
          {w.albums.cover}
        </Button>
      )}
    </>
  )
}
