import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query'
import { type DragEvent, useEffect, useRef, useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { refresh, useFigures } from '../shell/data'
import { bytes } from '../shell/format'
import { tellProblem } from '../shell/news'
import { Heading } from '../shell/Station'
import { Destination } from './Destination'
import { EarlierIntakes } from './EarlierIntakes'
import { Progress } from './Progress'
import { send, useUploads } from './upload'

const intakes = queryOptions({
  queryKey: ['intakes'],
  queryFn: () => body(api.GET('/api/intakes'), w.errors.away),
})

/** Bringing photos in: drop, see where they go, watch what comes of each. */
export function IntakeStation() {
  const client = useQueryClient()
  const [album, setAlbum] = useState<{ id: string; name: string } | null>(null)
  const [over, setOver] = useState(false)
  const chooser = useRef<HTMLInputElement>(null)
  const { uploads, intake } = useUploads()
  const waiting = useFigures().data?.waiting ?? 0
  const sending = uploads.filter((u) => u.state === 'queued' || u.state === 'sending').length
  const list = useQuery({ ...intakes, refetchInterval: sending + waiting > 0 ? 2000 : false })
  const limits = list.data?.limits
  const here = uploads.filter((u) => u.state === 'here').length
  // biome-ignore lint/correctness/useExhaustiveDependencies: read again whenever another file is here.
  useEffect(() => refresh(client), [here, client])

  async function bring(files: FileList | null) {
    // Copied at once: the list empties when the field it came from is cleared.
    const chosen = [...(files ?? [])]
    if (chosen.length === 0) return
    try {
      const { limits: known } = await client.fetchQuery(intakes)
      const going = sending > 0 && intake
      const into =
        going ||
        (await body(api.POST('/api/intakes', { body: { album: album?.id ?? null } }), w.errors.away)).id
      send(chosen, into, known.bytes)
    } catch (problem) {
      tellProblem(problem)
    }
  }
  function drop(e: DragEvent) {
    e.preventDefault()
    setOver(false)
    void bring(e.dataTransfer.files)
  }

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: the whole station takes what is dropped; the button does the same for keys.
    <div
      className="min-h-full px-[30px] pt-7 pb-16"
      onDragOver={(e) => {
        e.preventDefault()
        setOver(true)
      }}
      onDragLeave={(e) => e.currentTarget === e.target && setOver(false)}
      onDrop={drop}
    >
      <Heading
        title={w.intake.title}
        lead={limits && w.intake.lead(bytes(limits.bytes), limits.megapixels)}
      />
      <div className={`mt-6 border-y py-7 ${over ? 'border-plum bg-plum-wash' : 'border-strong-line'}`}>
        <div className="flex flex-wrap items-center gap-x-4 gap-y-3">
          <p className="font-display text-head font-semibold">{w.intake.drop}</p>
          <span className="text-quiet">{w.intake.or}</span>
          <Button look="next" onClick={() => chooser.current?.click()}>
            {w.intake.choose}
          </Button>
          <input
            ref={chooser}
            type="file"
            multiple
            accept="image/jpeg,image/png,image/webp,image/tiff,image/avif,image/gif"
            aria-label={w.intake.choose}
            className="sr-only"
            tabIndex={-1}
            onChange={(e) => {
              void bring(e.target.files)
              e.target.value = ''
            }}
          />
        </div>
        <Destination album={album} intake={uploads.length > 0 ? intake : null} onChoose={setAlbum} />
      </div>
      {uploads.length > 0 && intake && <Progress uploads={uploads} intake={intake} />}
      <EarlierIntakes
        intakes={(list.data?.intakes ?? []).filter((i) => i.id !== (uploads.length > 0 ? intake : null))}
      />
    </div>
  )
}
