import { useState } from 'react'
import { api, body } from '../../api/client'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct, useAlbums, useMakeAlbum } from '../shell/data'

/** Says which album the photos go into, and changes it, also for an intake that has begun. */
export function Destination({
  album,
  intake,
  onChoose,
}: {
  album: { id: string; name: string } | null
  intake: string | null
  onChoose: (album: { id: string; name: string } | null) => void
}) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const albums = useAlbums().data ?? []
  const direct = useAct((to: string | null) =>
    intake
      ? body(
          api.PUT('/api/intakes/{intake}/album', { params: { path: { intake } }, body: { album: to } }),
          w.errors.away,
        )
      : Promise.resolve(null),
  )
  function choose(to: { id: string; name: string } | null) {
    onChoose(to)
    direct.mutate(to?.id ?? null)
    setOpen(false)
    setTyped('')
  }
  const make = useMakeAlbum((made) => choose({ id: made.id, name: made.workingName }))
  return (
    <p className="mt-4">
      <span className="text-quiet">{w.intake.goTo}</span>{' '}
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.intake.goTo}
        trigger={
          <button
            type="button"
            className="font-semibold underline decoration-strong-line decoration-1 underline-offset-4"
          >
            {album?.name ?? w.intake.noAlbum}
          </button>
        }
      >
        <Chooser
          label={w.intake.goTo}
          typed={typed}
          onType={setTyped}
          choices={[
            { key: '', name: w.intake.noAlbum },
            ...albums.map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) })),
          ]}
          onChoose={(choice) => choose(choice.key ? { id: choice.key, name: choice.name } : null)}
          onNew={(name) => make.mutate(name)}
          newLabel={(name) => `${w.hand.newAlbum} “${name}”`}
        />
      </Popover>
    </p>
  )
}
