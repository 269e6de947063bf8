import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useRef, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useAct } from './data'

/** Encodings that a file may be said to have. */
const encodings = [
  'utf-8',
  'utf-16',
  'windows-1252',
  'iso-8859-1',
  'iso-8859-15',
  'windows-1250',
  'windows-1251',
  'macintosh',
] as const

/** What is known of a file before it is written. */
type Seen = Pick<
  Api['PersonPreview'],
  'encoding' | 'doubtful' | 'unknown' | 'changed' | 'rejectedCount' | 'rejected'
>

/** What a file is read as, as addresses say it. */
type ReadAs = { encoding?: string }

/** Chooses a spreadsheet's file, shows what writing it would come to and what of it cannot be used, and writes it. */
export function TableFile<Preview extends Seen, Done>({
  choose,
  another,
  first,
  settings,
  sentence,
  look,
  write,
  verb,
  onDone,
  beside,
  children,
}: {
  choose: string
  another: string
  /** It is the thing to do next. */
  first?: boolean
  /** What else it is read by; another one is looked at anew. */
  settings?: string
  /** The same in the sentence that says how it is read. */
  sentence?: ReactNode
  look: (file: File, as: ReadAs) => Promise<Preview>
  write: (file: File, as: ReadAs) => Promise<Done>
  verb: (changed: number) => string
  onDone: (done: Done) => void
  /** What stands beside the verb that chooses. */
  beside?: ReactNode
  children: (found: Preview) => ReactNode
}) {
  // The same name chosen again is another file.
  const [chosen, setChosen] = useState<{ file: File; time: number } | null>(null)
  const [encoding, setEncoding] = useState('')
  const field = useRef<HTMLInputElement>(null)
  const as: ReadAs = encoding ? { encoding } : {}
  const preview = useQuery({
    queryKey: ['table-file', choose, chosen?.time, encoding, settings],
    queryFn: () => look((chosen as { file: File }).file, as),
    enabled: chosen !== null,
    retry: false,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
  })
  const writing = useAct(
    (file: File) => write(file, as),
    (done) => {
      onDone(done)
      setChosen(null)
    },
  )
  const found = preview.data
  return (
    <>
      <input
        ref={field}
        type="file"
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        className="sr-only"
        aria-label={choose}
        onChange={(e) => {
          const file = e.target.files?.[0]
          setEncoding('')
          if (file) setChosen({ file, time: performance.now() })
          e.target.value = ''
        }}
      />
      <p className="mt-4 flex flex-wrap items-center gap-3">
        <Button look={first && !chosen ? 'next' : 'plain'} onClick={() => field.current?.click()}>
          {chosen ? another : choose}
        </Button>
        {beside}
      </p>
      {chosen && (
        <div className="mt-5" aria-live="polite">
          <p className="font-display text-lead leading-[1.8] font-semibold [overflow-wrap:anywhere]">
            “{chosen.file.name}”, {w.file.readAs}{' '}
            <WordSelect
              label={w.file.readAs}
              value={encoding || found?.encoding || 'utf-8'}
              choices={encodings.map((e) => [e, e] as const)}
              onChoose={setEncoding}
              className="leading-tight"
            />
            {sentence}.
          </p>
          {preview.isPending && <p className="text-quiet">{w.file.reading}</p>}
          {preview.error && <p className="mt-2 border-l-[3px] border-plum pl-3">{preview.error.message}</p>}
          {found && (
            <>
              <div className="mt-1 max-w-[44rem]">
                {children(found)}
                {found.doubtful && ` ${w.file.doubtful}`}
                {found.unknown.length > 0 && ` ${w.file.unknown(found.unknown)}`}
              </div>
              <Rejected count={found.rejectedCount} rows={found.rejected} />
              <Button
                look="next"
                className="mt-5"
                disabled={found.changed === 0 || writing.isPending}
                onClick={() => writing.mutate(chosen.file)}
              >
                {writing.isPending ? w.plate.saving : verb(found.changed)}
              </Button>
            </>
          )}
        </div>
      )}
    </>
  )
}

/** Rows of a file that are not written, each with its reason. */
function Rejected({ count, rows }: { count: number; rows: readonly Api['RejectedRow'][] }) {
  if (count === 0) return null
  return (
    <details className="mt-4" open={count < 8}>
      <summary className="cursor-pointer font-semibold">{w.file.rejected(count)}</summary>
      <ul className="mt-2 max-h-64 overflow-y-auto text-small leading-[1.7]">
        {rows.map((r) => (
          <li key={r.line}>
            <span className="inline-block w-20 text-quiet tabular-nums">{w.file.line(r.line)}</span>
            {r.reason}
          </li>
        ))}
        {count > rows.length && <li className="text-quiet">{w.describing.more(count - rows.length)}</li>}
      </ul>
    </details>
  )
}
