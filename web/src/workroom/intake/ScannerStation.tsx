import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { bytes } from '../shell/format'
import { tell } from '../shell/news'
import { Empty, Heading } from '../shell/Station'
import { About } from './About'
import { nothingSaid } from './data'

/** Scanning prints: choose how, see the pages, keep them or throw them away. */
export function ScannerStation() {
  const names = useQuery({
    queryKey: ['scanners'],
    queryFn: async () => (await body(api.GET('/api/scanners'), w.errors.away)).names,
  }).data
  const [chosen, setChosen] = useState<string>()
  const name = chosen ?? names?.[0]
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.scanner.title} lead={w.scanner.lead} />
      {names?.length === 0 && <Empty title={w.scanner.none} lead={w.scanner.noneLead} />}
      {names && name && <Device key={name} name={name} names={names} onName={setChosen} />}
    </div>
  )
}

function Device({
  name,
  names,
  onName,
}: {
  name: string
  names: readonly string[]
  onName: (name: string) => void
}) {
  const abilities = useQuery({
    queryKey: ['scanner', name],
    queryFn: () =>
      body(api.GET('/api/scanners/{scanner}', { params: { path: { scanner: name } } }), w.errors.away),
    retry: false,
  })
  const can = abilities.data
  const [asked, setAsked] = useState<Partial<Api['ScanRequest']>>({})
  const [pages, setPages] = useState<readonly Api['ScannedPage'][]>([])
  const request: Api['ScanRequest'] = {
    resolution: asked.resolution ?? can?.resolutions.find((r) => r >= 300) ?? can?.resolutions[0] ?? 300,
    colour: asked.colour ?? can?.colours[0] ?? 'colour',
    source: asked.source ?? can?.sources[0] ?? 'glass',
  }
  const scan = useAct(
    () =>
      body(
        api.POST('/api/scanners/{scanner}/scan', { params: { path: { scanner: name } }, body: request }),
        w.errors.away,
      ),
    (out) => setPages((p) => [...p, ...out.pages]),
  )
  const trouble = [abilities.error, scan.error].find((e) => e instanceof Error)
  return (
    <>
      <div className="mt-6 flex flex-wrap items-baseline gap-x-7 gap-y-2 border-y border-line py-4">
        <Pick
          label={w.scanner.device}
          value={name}
          choices={names.map((n) => [n, n] as const)}
          onChoose={onName}
        />
        {can && (
          <>
            <Pick
              label={w.scanner.resolution}
              value={String(request.resolution)}
              choices={can.resolutions.map((r) => [String(r), w.scanner.perInch(r)] as const)}
              onChoose={(r) => setAsked({ ...asked, resolution: Number(r) })}
            />
            <Pick
              label={w.scanner.colour}
              value={request.colour}
              choices={can.colours.map((c) => [c, w.scanner.colours[c] ?? c] as const)}
              onChoose={(colour) => setAsked({ ...asked, colour })}
            />
            <Pick
              label={w.scanner.source}
              value={request.source}
              choices={can.sources.map((s) => [s, w.scanner.sources[s] ?? s] as const)}
              onChoose={(source) => setAsked({ ...asked, source })}
            />
            <Button
              look={pages.length === 0 ? 'next' : 'plain'}
              className="ml-auto"
              disabled={scan.isPending}
              onClick={() => scan.mutate(undefined)}
            >
              {scan.isPending ? w.scanner.scanning : w.scanner.scan}
            </Button>
          </>
        )}
        {abilities.isPending && <span className="text-quiet">{w.scanner.asking}</span>}
      </div>
      {can && <p className="mt-1.5 text-small text-quiet">{can.model}</p>}
      {trouble && (
        <p role="alert" className="mt-5 border-l-[3px] border-plum pl-4">
          {trouble.message}{' '}
          {abilities.error && (
            <Button look="word" onClick={() => void abilities.refetch()}>
              {w.scanner.retry}
            </Button>
          )}
        </p>
      )}
      <Pages pages={pages} onPages={setPages} />
    </>
  )
}

function Pick({
  label,
  value,
  choices,
  onChoose,
}: {
  label: string
  value: string
  choices: readonly (readonly [string, string])[]
  onChoose: (value: string) => void
}) {
  return (
    <label className="flex items-baseline gap-1.5">
      <span className="text-quiet">{label}</span>
      <select
        className="cursor-pointer bg-transparent font-semibold"
        value={value}
        onChange={(e) => onChoose(e.target.value)}
      >
        {choices.map(([key, says]) => (
          <option key={key} value={key} className="bg-raised">
            {says}
          </option>
        ))}
      </select>
    </label>
  )
}

/** Pages that were scanned and are not kept yet. */
function Pages({
  pages,
  onPages,
}: {
  pages: readonly Api['ScannedPage'][]
  onPages: (pages: readonly Api['ScannedPage'][]) => void
}) {
  const [said, setSaid] = useState(nothingSaid)
  const keep = useAct(
    async (ids: string[]) => {
      const intake = await body(api.POST('/api/intakes', { body: { about: said } }), w.errors.away)
      return body(
        api.POST('/api/scanners/pages/keep', { body: { pages: ids, intake: intake.id } }),
        w.errors.away,
      )
    },
    (out, ids) => {
      onPages(pages.filter((p) => !ids.includes(p.id)))
      tell({ text: w.scanner.kept(out.files.length) })
    },
  )
  const throwAway = useAct(
    (id: string) =>
      body(api.DELETE('/api/scanners/pages/{page}', { params: { path: { page: id } } }), w.errors.away),
    (_, id) => onPages(pages.filter((p) => p.id !== id)),
  )
  if (pages.length === 0) return <p className="mt-10 text-quiet">{w.scanner.empty}</p>
  return (
    <>
      <div className="mt-6 flex items-end gap-8">
        <div className="flex-1">
          <About said={said} onSay={setSaid} />
        </div>
        {pages.length > 1 && (
          <Button look="next" disabled={keep.isPending} onClick={() => keep.mutate(pages.map((p) => p.id))}>
            {w.scanner.keepAll(pages.length)}
          </Button>
        )}
      </div>
      <ul className="mt-6 grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-7 gap-y-8">
        {pages.map((page, i) => (
          <li key={page.id}>
            <img
              src={`/api/scanners/pages/${page.id}`}
              width={page.width}
              height={page.height}
              alt={w.scanner.page(i + 1)}
              className="h-auto w-full"
            />
            <p className="mt-1.5 border-t border-line pt-1 text-small text-quiet tabular-nums">
              {w.scanner.size(page.width, page.height, bytes(page.bytes))}
            </p>
            <p className="mt-1 flex gap-4 text-small">
              <Button look="word" disabled={keep.isPending} onClick={() => keep.mutate([page.id])}>
                {w.scanner.keep}
              </Button>
              <Button look="word" onClick={() => throwAway.mutate(page.id)}>
                {w.scanner.throwAway}
              </Button>
            </p>
          </li>
        ))}
      </ul>
    </>
  )
}
