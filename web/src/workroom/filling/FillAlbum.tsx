import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { isNarrowed } from '../narrowings/narrowing'
import { aside } from '../narrowings/Sentence'
import { sortWords } from '../sheet/SortChoice'
import type { SheetQuery } from '../sheet/useSheet'
import { useAct } from '../shell/data'
import { tell } from '../shell/news'
import { fillingOf, orderOf } from './fillingOf'
import { MostPhotos, usual } from './MostPhotos'

/** Makes an album that fills itself with what the sheet finds, in the order the sheet has. */
export function FillAlbum({ search }: { search: SheetQuery }) {
  const [open, setOpen] = useState(false)
  const go = useNavigate()
  const { sort, reversed } = orderOf(search)
  const make = useAct(
    (album: { name: string; most: number }) =>
      body(
        api.POST('/api/albums', {
          body: {
            workingName: album.name,
            filling: fillingOf(search, album.most),
          },
        }),
        w.errors.away,
      ),
    (album) => {
      tell({ text: w.albums.filling.made(album.workingName) })
      void go({ to: '/workroom/albums/$album', params: { album: album.id } })
    },
  )
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.albums.filling.verb}
      trigger={
        <button type="button" className={`ml-4 ${aside}`}>
          {isNarrowed(search) ? w.albums.filling.verb : w.albums.filling.verbAll}
        </button>
      }
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          const said = new FormData(e.currentTarget)
          const name = String(said.get('name') ?? '').trim()
          if (name) make.mutate({ name, most: Number(said.get('most')) })
        }}
      >
        <label className="grid gap-1 text-small">
          <span className="text-quiet">{w.albums.name}</span>
          <input
            name="name"
            maxLength={160}
            className="border-b border-strong-line bg-transparent py-1 text-body"
            // biome-ignore lint/a11y/noAutofocus: it was opened to type the name
            autoFocus
          />
        </label>
        <p className="text-small text-quiet">
          {w.albums.filling.lead(isNarrowed(search), sortWords(sort, reversed))}
        </p>
        <span className="flex items-baseline gap-2 text-small">
          <span className="text-quiet">{w.albums.filling.number}</span>
          <MostPhotos most={usual} />
        </span>
        <Button look="next" type="submit" className="justify-self-start" disabled={make.isPending}>
          {w.albums.filling.make}
        </Button>
      </form>
    </Popover>
  )
}
