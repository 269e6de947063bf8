import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct, useAlbums } from './data'
import { bytes } from './format'
import { tellDone } from './news'

/** Files as lines: what each is, how large, which albums it is attached to. */
export function FileLines({ files }: { files: readonly Api['FileLine'][] }) {
  return (
    <ul>
      {files.map((f) => (
        <li
          key={f.id}
          className="grid grid-cols-[minmax(0,1.4fr)_9rem_6rem_minmax(0,1fr)_auto] items-baseline gap-x-5 border-t border-line py-2 text-small"
        >
          <strong className="truncate text-body font-semibold">{f.fileName}</strong>
          <span className="text-quiet">{w.files.kinds[f.kind]}</span>
          <span className="text-right text-quiet tabular-nums">{bytes(f.bytes)}</span>
          <Attached file={f} />
          <span className="flex gap-4">
            {(f.kind === 'sound' || f.kind === 'video' || f.kind === 'pdf') && (
              <a
                className="underline decoration-strong-line decoration-1 underline-offset-4"
                href={`/api/files/${f.id}/content?show=true`}
                target="_blank"
                rel="noreferrer"
              >
                {w.files.show}
              </a>
            )}
            <a
              className="underline decoration-strong-line decoration-1 underline-offset-4"
              href={`/api/files/${f.id}/content`}
              download={f.fileName}
            >
              {w.files.save}
            </a>
            <ThrowAway file={f} />
          </span>
        </li>
      ))}
    </ul>
  )
}

/** Throws a file in the bin; it can be taken back. */
function ThrowAway({ file }: { file: Api['FileLine'] }) {
  const away = useAct(
    () => body(api.POST('/api/bin', { body: { files: [file.id] } }), w.errors.away),
    (done) => tellDone(w.files.threw(file.fileName), done),
  )
  return (
    <Button look="word" aria-label={w.files.throwAway(file.fileName)} onClick={() => away.mutate(undefined)}>
      {w.bin.throwIn}
    </Button>
  )
}

function Attached({ file }: { file: Api['FileLine'] }) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const client = useQueryClient()
  const albums = useAlbums().data ?? []
  const read = () => void client.invalidateQueries({ queryKey: ['files'] })
  const path = (album: string) => ({ params: { path: { file: file.id, album } } })
  const put = (album: string) => body(api.PUT('/api/files/{file}/albums/{album}', path(album)), w.errors.away)
  const take = (album: string) =>
    body(api.DELETE('/api/files/{file}/albums/{album}', path(album)), w.errors.away)
  const attach = useAct(
    (album: { id: string; name: string }) => put(album.id),
    (done, album) => {
      read()
      tellDone(w.files.attached(file.fileName, album.name), done)
    },
  )
  const detach = useAct(
    (album: { id: string; name: string }) => take(album.id),
    (done, album) => {
      read()
      tellDone(w.files.detached(file.fileName, album.name), done)
    },
  )
  return (
    <span className="min-w-0">
      {file.albums.map((a) => (
        <button
          key={a.id}
          type="button"
          className="mr-2 hover:line-through"
          title={w.files.detach(a.workingName)}
          aria-label={w.files.detach(a.workingName)}
          onClick={() => detach.mutate({ id: a.id, name: a.workingName })}
        >
          {a.workingName}
        </button>
      ))}
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.files.attachTo}
        trigger={<Button look="word">{w.files.attach}</Button>}
      >
        <Chooser
          label={w.files.attachTo}
          typed={typed}
          onType={setTyped}
          choices={albums
            .filter((a) => !file.albums.some((b) => b.id === a.id))
            .map((a) => ({ key: a.id, name: a.workingName }))}
          onChoose={(choice) => {
            setOpen(false)
            setTyped('')
            attach.mutate({ id: choice.key, name: choice.name })
          }}
        />
      </Popover>
    </span>
  )
}
