import { useMutation } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { type Api, api, body, bytesOf } from '../../api/client'
import { asPlain, Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct, useFigures } from '../shell/data'
import { useHand } from '../shell/hand'
import { tellDone } from '../shell/news'
import { Heading } from '../shell/Station'
import { Examples } from './Examples'
import { Pick } from './parts'

const away = w.errors.away
/** Encodings that a file may be said to have. */
export const encodings = [
  'utf-8',
  'utf-16',
  'windows-1252',
  'iso-8859-1',
  'iso-8859-15',
  'windows-1250',
  'windows-1251',
  'macintosh',
] as const

/** What is sent of a file. */
const bytes = (file: File) => bytesOf(file, 'text/csv')

/** Words as a spreadsheet's file: out, and in again, with what would change shown before. */
export function FileStation() {
  const { count } = useHand()
  const all = useFigures().data?.photos ?? 0
  const [which, setWhich] = useState<'hand' | 'all'>('all')
  const hand = which === 'hand' && count > 0
  return (
    <div className="max-w-[60rem] px-[30px] pt-7 pb-16">
      <Heading title={w.file.title} lead={w.file.lead} />
      <section className="mt-7" aria-label={w.file.out}>
        <h2 className="text-lead">{w.file.out}</h2>
        <p className="mt-2 font-display text-lead leading-[2] font-semibold">
          {w.file.save}{' '}
          <Pick
            label={w.file.save}
            value={hand ? 'hand' : 'all'}
            choices={[
              ['all', w.file.all(all)],
              ...(count > 0 ? [['hand', w.file.hand(count)] as const] : []),
            ]}
            onPick={setWhich}
          />
          .
        </p>
        <a href={`/api/words/table.csv${hand ? '?inHand=true' : ''}`} download className={`mt-3 ${asPlain}`}>
          {w.file.asCsv}
        </a>
      </section>
      <TakeIn />
    </div>
  )
}

/** Chooses a file, shows what it would change and what of it cannot be used, and writes it. */
function TakeIn() {
  const [file, setFile] = useState<File | null>(null)
  const [encoding, setEncoding] = useState<string>('')
  const [clears, setClears] = useState<'no' | 'yes'>('no')
  const field = useRef<HTMLInputElement>(null)
  const query = { ...(encoding && { encoding }), clears: clears === 'yes' }
  const preview = useMutation({
    mutationFn: ({ chosen, as }: { chosen: File; as: typeof query }) =>
      body(api.POST('/api/words/table/preview', { params: { query: as }, ...bytes(chosen) }), away),
  })
  const write = useAct(
    (chosen: File) =>
      body(
        api.POST('/api/words/table', {
          params: { query: { ...query, name: chosen.name } },
          ...bytes(chosen),
        }),
        away,
      ),
    (out) => {
      tellDone(w.describing.done(out.done.photos, out.cut, 0), out.done)
      setFile(null)
      preview.reset()
    },
  )
  function look(chosen: File | null, as: typeof query) {
    setFile(chosen)
    if (chosen) preview.mutate({ chosen, as })
  }
  const found = preview.data
  return (
    <section className="mt-10 border-t border-line pt-6" aria-label={w.file.in}>
      <h2 className="text-lead">{w.file.in}</h2>
      <p className="mt-2 max-w-[40rem] text-quiet">{w.file.matched}</p>
      <input
        ref={field}
        type="file"
        accept=".csv,.txt,.tsv,text/csv,text/plain"
        className="sr-only"
        aria-label={w.file.choose}
        onChange={(e) => {
          setEncoding('')
          look(e.target.files?.[0] ?? null, { clears: clears === 'yes' })
          e.target.value = ''
        }}
      />
      <Button className="mt-4" look={file ? 'plain' : 'next'} onClick={() => field.current?.click()}>
        {file ? w.file.another : w.file.choose}
      </Button>
      {file && (
        <div className="mt-5" aria-live="polite">
          <p className="font-display text-lead leading-[2] font-semibold">
            “{file.name}”, {w.file.readAs}{' '}
            <Pick
              label={w.file.readAs}
              value={encoding || found?.encoding || 'utf-8'}
              choices={encodings.map((e) => [e, e] as const)}
              onPick={(e) => {
                setEncoding(e)
                look(file, { encoding: e, clears: clears === 'yes' })
              }}
            />
            ;{' '}
            <Pick
              label={w.file.blanks.no}
              value={clears}
              choices={[
                ['no', w.file.blanks.no],
                ['yes', w.file.blanks.yes],
              ]}
              onPick={(now) => {
                setClears(now)
                look(file, { ...query, clears: now === 'yes' })
              }}
            />
            .
          </p>
          {preview.isPending && <p className="text-quiet">{w.file.reading}</p>}
          {preview.error && <p className="mt-2 border-l-[3px] border-plum pl-3">{preview.error.message}</p>}
          {found && !preview.isPending && (
            <>
              <Found found={found} />
              <Button
                look="next"
                className="mt-5"
                disabled={found.changed === 0 || write.isPending}
                onClick={() => write.mutate(file)}
              >
                {write.isPending ? w.plate.saving : w.describing.doIt(found.changed)}
              </Button>
            </>
          )}
        </div>
      )}
    </section>
  )
}

function Found({ found }: { found: Api['TablePreview'] }) {
  return (
    <>
      <p className="mt-1 max-w-[44rem]">
        {w.file.found(found.rows, found.matched, found.byName)}
        {found.doubtful && ` ${w.file.doubtful}`}
        {found.unknown.length > 0 && ` ${w.file.unknown(found.unknown)}`}
      </p>
      <Examples
        preview={{
          ...found,
          reached: found.matched,
          looked: found.matched,
          lacks: 0,
          refused: 0,
        }}
      />
      <Rejected count={found.rejectedCount} rows={found.rejected} />
    </>
  )
}

/** Rows of a file that are not written, each with its reason. */
export function Rejected({ count, rows }: { count: number; rows: readonly Api['RejectedRow'][] }) {
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
