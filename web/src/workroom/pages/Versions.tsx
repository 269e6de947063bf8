import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'

const away = w.errors.away

/** What visitors had of a page; pressed, a version is looked at beside the running order. */
export function Versions({
  page,
  looking,
  onLook,
}: {
  page: string
  /** The version that is looked at; null for the draft. */
  looking: number | null
  onLook: (version: number) => void
}) {
  const [open, setOpen] = useState(false)
  const versions = useQuery({
    queryKey: ['pages', page, 'versions'],
    queryFn: () => body(api.GET('/api/pages/{page}/versions', { params: { path: { page } } }), away),
    enabled: open,
  }).data?.versions
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.versions.title}
      trigger={<Button look="word">{w.versions.title}</Button>}
    >
      <ol className="max-h-80 overflow-y-auto text-small">
        {versions?.map((version) => (
          <li key={version.number} className="border-b border-line last:border-0">
            <button
              type="button"
              aria-pressed={looking === version.number}
              className="grid w-full grid-cols-[2rem_minmax(0,1fr)] py-1.5 text-left hover:bg-well"
              onClick={() => {
                setOpen(false)
                onLook(version.number)
              }}
            >
              <span className="font-semibold tabular-nums">{version.number}</span>
              <span>
                <span className="block truncate">{version.title}</span>
                <span className="block text-quiet">
                  {w.versions.made(new Date(version.made), version.by)}
                  {version.current && `, ${w.versions.current}`}
                </span>
              </span>
            </button>
          </li>
        ))}
        {versions?.length === 0 && <li className="text-quiet">{w.versions.noVersions}</li>}
      </ol>
    </Popover>
  )
}

/** Above a version that is looked at: what it is, and the ways from here. */
export function VersionBand({
  page,
  number,
  onDraft,
}: {
  page: string
  number: number
  /** Back to the draft. */
  onDraft: () => void
}) {
  const back = useAct(
    () =>
      body(
        api.POST('/api/pages/{page}/versions/{number}/back', { params: { path: { page, number } } }),
        away,
      ),
    ({ done }) => {
      tellDone(w.versions.takenBack(number), done)
      onDraft()
    },
  )
  return (
    <p className="mb-3 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-small">
      <span className="font-semibold">{w.versions.looking(number)}</span>
      <Button look="word" onClick={() => back.mutate(undefined)}>
        {w.versions.takeBack}
      </Button>
      <Button look="word" onClick={onDraft}>
        {w.versions.toDraft}
      </Button>
    </p>
  )
}
