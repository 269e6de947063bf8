import { useMutation } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { type Api, api, body, bytesOf } from '../../api/client'
import { asPlain, Button } from '../../kit/Button'
import { w } from '../../words'
import { encodings, Rejected } from '../describing/FileStation'
import { Pick } from '../describing/parts'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'

/** The list of persons as a spreadsheet's file: out, and in again, with what would change said before. */
export function PersonFile() {
  const [file, setFile] = useState<File | null>(null)
  const [encoding, setEncoding] = useState('')
  const field = useRef<HTMLInputElement>(null)
  const preview = useMutation({
    mutationFn: ({ chosen, as }: { chosen: File; as: string }) =>
      body(
        api.POST('/api/clearance/persons/preview', {
          params: { query: as ? { encoding: as } : {} },
          ...bytesOf(chosen, 'text/csv'),
        }),
        w.errors.away,
      ),
  })
  const write = useAct(
    (chosen: File) =>
      body(
        api.POST('/api/clearance/persons/table', {
          params: { query: { ...(encoding && { encoding }), name: chosen.name } },
          ...bytesOf(chosen, 'text/csv'),
        }),
        w.errors.away,
      ),
    (out) => {
      tellDone(`${w.clearance.tookIn(out.changed)}${w.clearance.reaches(out.done.photos)}`, out.done)
      setFile(null)
      preview.reset()
    },
    'clearance',
  )
  function look(chosen: File, as: string) {
    setFile(chosen)
    setEncoding(as)
    preview.mutate({ chosen, as })
  }
  const found = preview.data
  return (
    <section aria-label={w.clearance.list}>
      <h2 className="text-lead">{w.clearance.list}</h2>
      <p className="mt-2 text-small text-quiet">{w.clearance.listLead}</p>
      <input
        ref={field}
        type="file"
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        className="sr-only"
        aria-label={w.clearance.take}
        onChange={(e) => {
          const chosen = e.target.files?.[0]
          if (chosen) look(chosen, '')
          e.target.value = ''
        }}
      />
      <p className="mt-4 flex flex-wrap items-center gap-3">
        <Button onClick={() => field.current?.click()}>
          {file ? w.clearance.another : w.clearance.take}
        </Button>
        <a href="/api/clearance/persons.csv" download className={asPlain}>
          {w.clearance.save}
        </a>
      </p>
      {file && (
        <div className="mt-5 border-t border-line pt-4" aria-live="polite">
          <p className="font-semibold [overflow-wrap:anywhere]">
            “{file.name}”, {w.clearance.readAs}{' '}
            <Pick
              label={w.clearance.readAs}
              value={encoding || found?.encoding || 'utf-8'}
              choices={encodings.map((e) => [e, e] as const)}
              onPick={(e) => look(file, e)}
            />
          </p>
          {preview.isPending && <p className="mt-2 text-quiet">{w.file.reading}</p>}
          {preview.error && <p className="mt-2 border-l-[3px] border-plum pl-3">{preview.error.message}</p>}
          {found && !preview.isPending && (
            <>
              <Found found={found} />
              <Button
                look="next"
                className="mt-4"
                disabled={found.changed === 0 || write.isPending}
                onClick={() => write.mutate(file)}
              >
                {write.isPending ? w.plate.saving : w.clearance.writeList(found.changed)}
              </Button>
            </>
          )}
        </div>
      )}
    </section>
  )
}

function Found({ found }: { found: Api['PersonPreview'] }) {
  return (
    <>
      <p className="mt-2">
        {w.clearance.found(found.rows, found.read, found.yes, found.no)} {w.clearance.changes(found.changed)}
        {found.doubtful && ` ${w.file.doubtful}`}
        {found.unknown.length > 0 && ` ${w.file.unknown(found.unknown)}`}
      </p>
      <p className="mt-1 font-semibold">
        {w.clearance.lost(found.lost)} {w.clearance.freed(found.freed)}
      </p>
      <Rejected count={found.rejectedCount} rows={found.rejected} />
    </>
  )
}
