import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import type { Api } from '../../api/client'
import { asNext, asWord, Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct, useFigures, useSession } from '../shell/data'
import { Shipped } from '../themes/Shipped'
import { asRead as themeAsRead, useTheme } from '../themes/useTheme'
import type { Step } from './FirstHour'
import { NameFields } from './NameFields'
import { sayFirstHour, useFront } from './useFront'

type Facts = Api['Beginnings']

/** The steps as lines, like those of the contents: what is done says at its end what it came to. */
export function Steps({
  steps,
  at,
  next,
  facts,
  site,
  onOpen,
  onStay,
  onTaken,
}: {
  steps: readonly Api['StepTaken'][]
  /** The one that is open; null for none. */
  at: Step | null
  next: Step | null
  facts: Facts
  site: Api['OpenedFront']
  onOpen: (step: Step) => void
  /** It is taken, and stays open all the same. */
  onStay: (step: Step) => void
  onTaken: () => void
}) {
  const theme = useQuery(themeAsRead).data
  const figures = useFigures().data
  const came: Record<Step, string> = {
    name: site.front.title,
    dress: theme ? w.themes.names[theme.opened.draft.name] : '',
    fill: figures ? w.photos(figures.photos) : '',
    publish: w.opening.hour.published(Number(facts.shown)),
    open: w.opening.hour.isOpen,
  }
  const bodies: Record<Step, () => ReactNode> = {
    name: () => <NameIt site={site} />,
    dress: () => <DressIt isDressed={facts.isDressed} onStay={() => onStay('dress')} onTaken={onTaken} />,
    fill: () => <FillIt />,
    publish: () => <PublishIt hasPhotos={facts.hasPhotos} />,
    open: () => <OpenIt site={site} shown={Number(facts.shown)} />,
  }
  return (
    <ol className="mt-4">
      {steps.map(({ step, isTaken }, i) => (
        <li key={step} className="border-t border-line">
          <button
            type="button"
            aria-expanded={step === at}
            className="flex w-full items-baseline py-2 text-left"
            onClick={() => onOpen(step)}
          >
            <span className="w-7 font-display text-quiet tabular-nums">{i + 1}</span>
            <span className={step === next ? 'font-semibold text-plum' : isTaken ? '' : 'text-quiet'}>
              {w.opening.hour.steps[step]}
            </span>
            {isTaken && (
              <>
                <span
                  className="mx-2 min-w-6 flex-1 translate-y-[-3px] border-b border-dotted border-strong-line"
                  aria-hidden
                />
                <span className="max-w-[60%] truncate font-semibold">{came[step]}</span>
              </>
            )}
          </button>
          {step === at && <div className="pt-1 pb-5 pl-7">{bodies[step]()}</div>}
        </li>
      ))}
    </ol>
  )
}

function Lead({ children }: { children: ReactNode }) {
  return <p className="mb-3 max-w-[38rem] text-small text-quiet">{children}</p>
}

function NameIt({ site }: { site: Api['OpenedFront'] }) {
  const work = useFront(site)
  const isOwner = useSession().data?.role === 'owner'
  return (
    <>
      <Lead>{isOwner ? w.opening.hour.nameLead : w.opening.ownerOnly}</Lead>
      <NameFields work={work} disabled={!isOwner} />
      {work.problem && <p className="mt-1 text-small font-semibold">{work.problem}</p>}
    </>
  )
}

/** A theme that is taken is on the site at once: nobody else sees it yet, or it can be taken back. */
function DressIt({
  isDressed,
  onStay,
  onTaken,
}: {
  isDressed: boolean
  onStay: () => void
  onTaken: () => void
}) {
  const theme = useQuery(themeAsRead).data
  const good = useAct(() => sayFirstHour(true, true), onTaken)
  return (
    <>
      <Lead>{w.opening.hour.dressLead}</Lead>
      {theme && <Themes site={theme} onChosen={onStay} />}
      <p className="mt-4 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Button look={isDressed ? 'next' : 'plain'} onClick={() => good.mutate(undefined)}>
          {isDressed ? w.opening.hour.goOn : w.opening.hour.asItIs}
        </Button>
        <Link to="/workroom/look" className={asWord}>
          {w.opening.hour.more}
        </Link>
      </p>
    </>
  )
}

function Themes({ site, onChosen }: { site: Api['SiteTheme']; onChosen: () => void }) {
  const { theme, problem, change, publish } = useTheme(site)
  const dress = useAct(publish)
  return (
    <>
      <Shipped
        all={site.shipped}
        chosen={theme.name}
        onChoose={(name) => {
          // Another may be tried next.
          onChosen()
          change({ name })
          dress.mutate()
        }}
      />
      {problem && <p className="mt-2 text-small font-semibold">{problem}</p>}
    </>
  )
}

function FillIt() {
  return (
    <>
      <Lead>{w.opening.hour.fillLead}</Lead>
      <Link to="/workroom/intake" className={asNext}>
        {w.opening.hour.bring}
      </Link>
    </>
  )
}

function PublishIt({ hasPhotos }: { hasPhotos: boolean }) {
  return (
    <>
      <Lead>{hasPhotos ? w.opening.hour.publishLead : w.opening.hour.needsPhotos}</Lead>
      <p className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <Link to="/workroom/starters" className={asNext}>
          {w.opening.hour.starters}
        </Link>
        <Link to="/workroom/pages" className={asWord}>
          {w.opening.hour.drafts}
        </Link>
      </p>
    </>
  )
}

function OpenIt({ site, shown }: { site: Api['OpenedFront']; shown: number }) {
  const { front, problem, say } = useFront(site)
  const isOwner = useSession().data?.role === 'owner'
  return (
    <>
      <Lead>
        {w.opening.hour.openLead(shown)}{' '}
        {shown > 0 && (
          <a href="/" target="_blank" rel="noreferrer" className="text-ink underline underline-offset-4">
            {window.location.origin}
          </a>
        )}
      </Lead>
      {!isOwner && <p className="text-small text-quiet">{w.opening.hour.ownerOpens}</p>}
      {isOwner && !front.isOpen && (
        <Button look={shown > 0 ? 'next' : 'plain'} onClick={() => say({ isOpen: true })}>
          {w.opening.open}
        </Button>
      )}
      {problem && <p className="mt-2 text-small font-semibold">{problem}</p>}
    </>
  )
}
