import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { FileLines } from '../shell/files'

/** The files attached to an album; nothing where there are none. */
export function AlbumFiles({ album }: { album: string }) {
  const [open, setOpen] = useState(false)
  const files = useQuery({
    queryKey: ['files', album],
    queryFn: async () =>
      (await body(api.GET('/api/files', { params: { query: { album } } }), w.errors.away)).files,
  }).data
  if (!files || files.length === 0) return null
  return (
    <section className="mb-3 text-small" aria-label={w.files.ofAlbum}>
      <Button look="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        {w.files.ofAlbum} ({w.count(files.length)})
      </Button>
      {open && (
        <div className="mt-2">
          <FileLines files={files} />
        </div>
      )}
    </section>
  )
}
