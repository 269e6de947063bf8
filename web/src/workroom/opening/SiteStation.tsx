import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useRef, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { PageFrame } from '../../kit/PageFrame'
import { useBox } from '../../kit/useBox'
import { WordSelect } from '../../kit/WordSelect'
import { WordTabs } from '../../kit/WordTabs'
import { w } from '../../words'
import { useAct, usePages, useSession } from '../shell/data'
import { StaleVerbs } from '../shell/Stale'
import { Heading } from '../shell/Station'
import { NameFields } from './NameFields'
import { asRead, firstHour, sayFirstHour, useFront, type WorkedFront } from './useFront'

/** What the site says of itself and whether visitors may come in, beside what they find. */
export function SiteStation() {
  const site = useQuery(asRead)
  if (site.error && !site.data) return <p className="p-10">{site.error.message}</p>
  return site.data ? <Opened site={site.data} /> : null
}

function Opened({ site }: { site: Api['OpenedFront'] }) {
  const work = useFront(site)
  const { front, state, problem, say } = work
  const session = useSession().data
  const isOwner = session?.role === 'owner'
  return (
    <div className="grid h-full grid-cols-[430px_minmax(0,1fr)] max-lg:h-auto max-lg:grid-cols-1">
      <div className="settings overflow-y-auto border-r border-line px-[26px] pt-7 pb-10">
        <Heading title={w.opening.title} lead={w.opening.lead} />
        <div className="mt-6">
          <NameFields work={work} disabled={!isOwner} />
        </div>
        <Visitors work={work} isOwner={isOwner} />
        <Part title={w.opening.favourites}>
          <p className="flex flex-wrap items-baseline gap-x-1.5">
            <span>{w.opening.theyMark}</span>
            <span>
              <WordSelect
                label={w.opening.markLabel}
                disabled={!isOwner}
                value={front.hasFavourites ? 'yes' : 'no'}
                choices={(['yes', 'no'] as const).map((c) => [c, w.opening.mark[c]] as const)}
                onChoose={(c) => say({ hasFavourites: c === 'yes' })}
              />
              .
            </span>
          </p>
          <p className="mt-1 text-small text-quiet">{w.opening.markLead}</p>
        </Part>
        <Part title={w.opening.found}>
          <p className="flex flex-wrap items-baseline gap-x-1.5">
            <span>{w.opening.search}</span>
            <span>
              <WordSelect
                label={w.opening.listedLabel}
                disabled={!isOwner}
                value={front.isListed ? 'yes' : 'no'}
                choices={(['yes', 'no'] as const).map((c) => [c, w.opening.listed[c]] as const)}
                onChoose={(c) => say({ isListed: c === 'yes' })}
              />
              .
            </span>
          </p>
        </Part>
        <Part title={w.opening.address}>
          <p>
            <a
              href="/"
              target="_blank"
              rel="noreferrer"
              className="underline decoration-strong-line underline-offset-4"
            >
              {window.location.origin}
            </a>
          </p>
          <p className="mt-1 text-small text-quiet">{w.opening.addressLead}</p>
        </Part>
        <p role="status" className="mt-6 min-h-5 text-small text-quiet">
          {!isOwner
            ? w.opening.ownerOnly
            : state === 'stale'
              ? w.opening.stale
              : state === 'unsaved'
                ? problem || w.plate.unsaved
                : w.plate.saved}{' '}
          {state === 'stale' && (
            <StaleVerbs onReload={() => void work.takeTheirs()} onOverwrite={() => void work.overwrite()} />
          )}
        </p>
        <FirstHourAgain />
      </div>
      <Seen version={site.edited} isOpen={front.isOpen} title={front.title} />
    </div>
  )
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="mt-6 border-t border-line pt-4">
      <h2 className="mb-1.5 text-lead">{title}</h2>
      {children}
    </section>
  )
}

/** Whether visitors may come in, and what they read until then. */
function Visitors({ work: { front, faults, say }, isOwner }: { work: WorkedFront; isOwner: boolean }) {
  const bounds = useSession().data?.bounds
  const pages = usePages().data ?? []
  return (
    <Part title={w.opening.visitors}>
      <p>{front.isOpen ? w.opening.isOpen : w.opening.isClosed}</p>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-1.5">
        <span>{w.opening.begin}</span>
        <span>
          <WordSelect
            label={w.opening.beginLabel}
            className="max-w-64 truncate"
            disabled={!isOwner}
            value={front.startsAt ?? ''}
            choices={[
              ['', w.opening.list],
              ...pages
                .filter((p) => p.published || p.id === front.startsAt)
                .map((p) => [p.id, p.title] as const),
            ]}
            onChoose={(page) => say({ startsAt: page || null })}
          />
          .
        </span>
      </p>
      {isOwner && (
        <p className="mt-3">
          <Button look={front.isOpen ? 'plain' : 'next'} onClick={() => say({ isOpen: !front.isOpen })}>
            {front.isOpen ? w.opening.close : w.opening.open}
          </Button>
        </p>
      )}
      <label className="mt-4 block">
        <span className="text-small text-quiet">{w.opening.meanwhile}</span>
        <textarea
          rows={2}
          className="in-place"
          placeholder={w.opening.meanwhileHint}
          maxLength={bounds?.longestMeanwhile}
          disabled={!isOwner}
          value={front.meanwhile}
          onChange={(e) => say({ meanwhile: e.target.value })}
        />
      </label>
      {faults.meanwhile && <p className="text-small font-semibold">{faults.meanwhile}</p>}
    </Part>
  )
}

/** What a new site still needs lies here when it was put away from the desk. */
function FirstHourAgain() {
  const path = useQuery(firstHour).data
  const again = useAct(() => sayFirstHour(true))
  if (!path || path.isOn) return null
  return (
    <p className="mt-4 text-small">
      <Button look="word" onClick={() => again.mutate(undefined)}>
        {w.opening.hour.again}
      </Button>
    </p>
  )
}

/** The site as visitors find it: its start page, or what stands there while it is closed. */
function Seen({ version, isOpen, title }: { version: number; isOpen: boolean; title: string }) {
  const room = useRef<HTMLDivElement>(null)
  const box = useBox(room)
  const [chosen, setChosen] = useState<'start' | 'shut' | null>(null)
  const seen = chosen ?? (isOpen ? 'start' : 'shut')
  return (
    <div className="flex min-h-[70vh] min-w-0 flex-col bg-well px-6 pt-5 pb-6">
      <WordTabs
        label={w.opening.seen}
        tabs={(['start', 'shut'] as const).map((key) => [key, w.opening[key]] as const)}
        chosen={seen}
        onChoose={setChosen}
        className="mb-3 text-small"
      />
      <div ref={room} className="min-h-0 flex-1 overflow-hidden">
        <PageFrame
          address={`${seen === 'start' ? '/' : '/preview/closed'}?v=${version}`}
          title={title}
          width={1280}
          height={box.height}
          scale={Math.min(1, box.width / 1280)}
        />
      </div>
    </div>
  )
}
