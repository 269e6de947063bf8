import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { bytes } from '../shell/format'
import { hand } from '../shell/hand'
import { sendAgain, type Upload } from './upload'

const listed = 400
const needsPerson = new Set(['failed', 'refused', 'broke'])

/** What the server says of an intake's files, read in parts. */
async function allFiles(intake: string) {
  const files: Api['IntakeFile'][] = []
  let after: number | null = 0
  while (after !== null) {
    const part: Api['IntakeDetail'] = await body(
      api.GET('/api/intakes/{intake}', { params: { path: { intake }, query: { after } } }),
      w.errors.away,
    )
    files.push(...part.files)
    after = part.after
  }
  return new Map(files.map((f) => [f.number, f]))
}

/** Whether a file has arrived and nothing final is known of it yet. */
function isOpen(upload: Upload, files: Map<number, Api['IntakeFile']> | undefined) {
  if (upload.state !== 'here' || !upload.result) return false
  return (files?.get(upload.result.number)?.state ?? 'waiting') === 'waiting'
}

/** The intake at work: in total and file by file. */
export function Progress({ uploads, intake }: { uploads: readonly Upload[]; intake: string }) {
  const sending = uploads.filter((u) => u.state === 'queued' || u.state === 'sending').length
  const files = useQuery({
    queryKey: ['intake', intake],
    queryFn: () => allFiles(intake),
    // Asked for until the server has said of every file that is here what came of it.
    refetchInterval: (q) => (sending > 0 || uploads.some((u) => isOpen(u, q.state.data)) ? 1000 : false),
  }).data
  const lines = uploads.map((upload) => {
    const file = (upload.result && files?.get(upload.result.number)) ?? upload.result
    const state =
      upload.state !== 'here'
        ? upload.state
        : file?.outcome === 'already_here'
          ? 'already_here'
          : (file?.state ?? 'waiting')
    return {
      upload,
      file,
      state,
      reason:
        upload.state === 'here'
          ? state === 'already_here'
            ? w.intake.alreadyHere
            : file?.reason
          : upload.reason,
    }
  })
  // What needs a person stands first; the rest keeps the order in which it was chosen.
  const listedFirst = [...lines].sort(
    (a, b) => Number(needsPerson.has(b.state)) - Number(needsPerson.has(a.state)),
  )
  const count = (...states: string[]) => lines.filter((l) => states.includes(l.state)).length
  const all = uploads.reduce((sum, u) => sum + u.file.size, 0)
  const sent = uploads.reduce(
    (sum, u) => sum + (u.state === 'here' ? u.file.size : Math.min(u.sent, u.file.size)),
    0,
  )
  const tally = (
    [
      ['ready', count('ready')],
      ['waiting', count('waiting')],
      ['sending', count('queued', 'sending')],
      ['already', count('already_here')],
      ['failed', count('failed', 'refused', 'broke')],
    ] as const
  ).filter(([, n]) => n > 0)
  const photos = lines.flatMap((l) => (l.file?.photo ? [l.file.photo] : []))
  return (
    <section className="mt-7" aria-label={w.intake.title}>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <p className="font-display text-lead font-semibold" data-testid="tally">
          {tally.map(([name, n]) => w.intake.tally[name](n)).join(', ')}
        </p>
        <span className="text-small text-quiet tabular-nums">{w.intake.sent(bytes(sent), bytes(all))}</span>
        <span className="ml-auto flex gap-5">
          {photos.length > 0 && (
            <>
              <Button look="word" onClick={() => hand.take(photos)}>
                {w.intake.take}
              </Button>
              <Link
                to="/workroom/photos"
                search={{ sort: 'arrived' }}
                className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
              >
                {w.intake.see}
              </Link>
            </>
          )}
        </span>
      </div>
      <progress
        className="intake-bar mt-2"
        value={sent}
        max={Math.max(1, all)}
        aria-label={w.intake.sent(bytes(sent), bytes(all))}
      />
      <ul className="mt-4 grid grid-cols-[repeat(auto-fill,minmax(19rem,1fr))] gap-x-8">
        {listedFirst.slice(0, listed).map(({ upload, file, state, reason }) => (
          <li
            key={upload.key}
            className="grid grid-cols-[48px_minmax(0,1fr)_auto] items-center gap-x-3 border-b border-line py-1.5 text-small"
          >
            <span className="grid h-9 w-12 place-items-center">
              {file?.hash && file.state === 'ready' ? (
                <img src={rendition(file.hash, 480)} alt="" className="max-h-9 max-w-12" />
              ) : (
                <span className="h-px w-6 bg-strong-line" />
              )}
            </span>
            <span className="min-w-0">
              <span className="block truncate">{upload.file.name}</span>
              {reason && <span className="block text-quiet">{reason}</span>}
            </span>
            <span className="text-right text-quiet tabular-nums">
              {state === 'sending' ? (
                `${Math.round((100 * upload.sent) / Math.max(1, upload.file.size))} %`
              ) : (
                <span className={state === 'ready' ? 'text-ink' : ''}>{w.intake.states[state]}</span>
              )}
              {state === 'broke' && (
                <Button look="word" className="ml-2" onClick={() => sendAgain(upload.key)}>
                  {w.intake.again}
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
