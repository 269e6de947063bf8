import { type ComponentProps, type KeyboardEvent, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { indent } from './tree'

type Line = Api['CategoryLine']

/** One category: its name and description edited where they stand, its handle, and what can be done with it. */
export function CategoryRow({
  line,
  hiddenBy,
  fading,
  handle,
  open,
  onOpen,
  onKey,
  onChange,
  onAdd,
  onRemove,
}: {
  line: Line
  /** The category that keeps it out of view; null when visitors see it. */
  hiddenBy: Line | null
  /** It is on its way elsewhere. */
  fading: boolean
  handle: ComponentProps<'button'>
  /** Its page is set beneath the line. */
  open: boolean
  onOpen: () => void
  onKey: (e: KeyboardEvent) => void
  onChange: (next: { name?: string; description?: string; shown?: boolean }) => void
  onAdd: () => void
  onRemove: () => void
}) {
  const own = hiddenBy?.id === line.id
  const [describing, setDescribing] = useState(false)
  return (
    <div
      data-line={line.id}
      className={`grid grid-cols-[1.25rem_3rem_minmax(0,1fr)_auto_auto] items-baseline gap-x-3 border-t border-line py-1 ${fading ? 'opacity-40' : ''}`}
      style={{ paddingLeft: line.depth * indent }}
    >
      <button
        type="button"
        aria-label={`${w.categories.move}: ${line.name}`}
        title={w.categories.howToMove}
        className="flex h-6 w-5 cursor-grab touch-none items-center self-start active:cursor-grabbing"
        onKeyDown={onKey}
        {...handle}
      >
        <span className="block h-[7px] w-3 border-y border-quiet" aria-hidden />
      </button>
      <span className={`flex h-9 items-center self-start ${hiddenBy ? 'opacity-40' : ''}`}>
        {line.picture && (
          <img
            src={rendition(line.picture, 480)}
            alt=""
            loading="lazy"
            className="max-h-9 w-auto max-w-full"
          />
        )}
      </span>
      <div className="min-w-0">
        <input
          key={line.name}
          defaultValue={line.name}
          aria-label={w.categories.name}
          className={`in-place ${line.depth === 0 ? 'font-semibold' : ''} ${hiddenBy ? 'text-quiet' : ''}`}
          onBlur={(e) => {
            const name = e.target.value.trim()
            if (!name) e.target.value = line.name
            else if (name !== line.name) onChange({ name })
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        {(line.description !== '' || describing) && (
          <textarea
            key={`d${line.description}`}
            defaultValue={line.description}
            aria-label={`${w.categories.description}: ${line.name}`}
            placeholder={w.categories.description}
            rows={1}
            // biome-ignore lint/a11y/noAutofocus: it appears because one asked to type into it.
            autoFocus={describing}
            className="in-place text-small text-quiet"
            onBlur={(e) => {
              setDescribing(false)
              if (e.target.value.trim() !== line.description) onChange({ description: e.target.value.trim() })
            }}
          />
        )}
      </div>
      <span className="text-right text-small text-quiet tabular-nums">
        {hiddenBy && (
          <span className="mr-3">{own ? w.categories.hidden : w.categories.hiddenWith(hiddenBy.name)}</span>
        )}
        {!hiddenBy && !line.audience.everyone && (
          <span className="block text-plum">{w.categories.guarded}</span>
        )}
        {line.albumsWithBeneath > 0 && (
          <span className="block">{w.shelf.holdsAlbums(line.albums, line.albumsWithBeneath)}</span>
        )}
        <span className="block">{w.categories.holds(line.photos, line.withBeneath)}</span>
      </span>
      <span className="grid grid-cols-[4.25rem_4rem_5.25rem_8.75rem_auto] items-baseline justify-items-start gap-x-3 text-small">
        <Button
          look="word"
          aria-expanded={open}
          aria-label={`${w.shelf.open}: ${line.name}`}
          className={open ? 'font-semibold text-plum' : ''}
          onClick={onOpen}
        >
          {w.shelf.open}
        </Button>
        {line.description === '' ? (
          <Button
            look="word"
            aria-label={`${w.categories.describe}: ${line.name}`}
            onClick={() => setDescribing(true)}
          >
            {w.categories.describe}
          </Button>
        ) : (
          <span />
        )}
        <Button look="word" aria-label={`${w.categories.addBeneath}: ${line.name}`} onClick={onAdd}>
          {w.categories.addBeneath}
        </Button>
        {!hiddenBy || own ? (
          <Button
            look="word"
            aria-label={`${own ? w.categories.show : w.categories.hide}: ${line.name}`}
            onClick={() => onChange({ shown: own })}
          >
            {own ? w.categories.show : w.categories.hide}
          </Button>
        ) : (
          <span />
        )}
        <Button look="word" aria-label={`${w.categories.remove}: ${line.name}`} onClick={onRemove}>
          {w.categories.remove}
        </Button>
      </span>
    </div>
  )
}
