import { Link, useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { AddressField } from '../../kit/AddressField'
import { asWord, Button } from '../../kit/Button'
import { w } from '../../words'
import { AudienceWords } from '../access/AudienceWords'
import { HeldOnPage } from '../clearance/HeldBack'
import { useAct } from '../shell/data'
import { tell, tellDone } from '../shell/news'
import { About } from './About'
import { Changes } from './Changes'
import { PageLook } from './PageLook'
import { PlanIt } from './PlanIt'
import { Unseen } from './Unseen'
import type { PageDraft } from './usePageDraft'
import { Versions } from './Versions'

const away = w.errors.away
/** What is said of the whole page, and may be said otherwise by somebody else meanwhile. */
const ofWhole = ['title', 'description', 'posted', 'unlisted', 'wide', 'bare', 'look']

/** What a page is called, where it is, who sees it, and what is done with it as a whole. */
export function PageHead({
  page,
  draft,
  notes,
  looking,
  onLook,
}: {
  page: Api['OpenedPage']
  draft: PageDraft
  /** Null until they are read. */
  notes: Api['PageNotes'] | null
  /** The version that is looked at; null for the draft. */
  looking: number | null
  onLook: (version: number) => void
}) {
  const go = useNavigate()
  const here = { path: { page: page.id } }
  const publish = useAct(
    async () => {
      // What is published is the draft that stands here, or nothing: a colleague's edit in between is told, not published.
      if (!(await draft.flush()))
        throw new Error(draft.problem || Object.values(draft.faults)[0] || w.plate.unsaved)
      const params = { ...here, header: { 'If-Match': draft.version() } }
      return body(api.POST('/api/pages/{page}/publish', { params }), away)
    },
    ({ page: now, done }) => tellDone(w.pages.publishedSo(now.audience.sentence), done),
  )
  const withdraw = useAct(
    () => body(api.POST('/api/pages/{page}/withdraw', { params: here }), away),
    ({ done }) => tellDone(w.pages.withdrawn, done),
  )
  const copy = useAct(
    async () => {
      await draft.flush()
      return body(api.POST('/api/pages/{page}/copy', { params: here }), away)
    },
    (made) => {
      tell({ text: w.pages.copied(made.draft.title) })
      void go({ to: '/workroom/pages/$page', params: { page: made.id } })
    },
  )
  const remove = useAct(
    async () => {
      const done = await body(api.DELETE('/api/pages/{page}', { params: here }), away)
      await go({ to: '/workroom/pages' })
      return done
    },
    (done) => tellDone(w.pages.removed(page.draft.title), done),
  )
  const clean = page.published && !page.changed && draft.state === 'saved'
  return (
    <header className="settings">
      <label>
        <span className="sr-only">{w.pages.heading}</span>
        <textarea
          rows={1}
          className="in-place font-display text-[1.625rem] leading-[1.15] font-[650]"
          placeholder={w.pages.heading}
          value={draft.edit.draft.title}
          aria-invalid={!!draft.faults.title}
          onChange={(e) => draft.changeDraft({ title: e.target.value.replaceAll('\n', ' ') })}
        />
      </label>
      {draft.faults.title && <p className="text-small font-semibold">{draft.faults.title}</p>}
      <div className="mt-1 text-small text-quiet">
        <AddressField
          before="/"
          address={draft.edit.address}
          label={w.pages.address}
          onSay={draft.readdress}
        />
      </div>
      {draft.faults.address && <p className="text-small font-semibold">{draft.faults.address}</p>}
      <p className="mt-1 text-small">
        <AudienceWords line={page.audience} of={{ kind: 'page', id: page.id }}>
          <HeldOnPage notes={notes} />
        </AudienceWords>
      </p>
      <Unseen page={page} />
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Button
          look="next"
          disabled={clean || publish.isPending || draft.state === 'collided'}
          onClick={() => publish.mutate(undefined)}
        >
          {clean ? w.pages.upToDate : page.published ? w.pages.publishChanges : w.pages.publish}
        </Button>
        {page.published && page.changed && <Changes page={page} notes={notes} />}
        {(!clean || page.plannedAt) && <PlanIt page={page} draft={draft} />}
        {page.published && (
          <a href={`/${page.address}`} target="_blank" rel="noreferrer" className={asWord}>
            {w.pages.open}
          </a>
        )}
        {page.version !== null && <Versions page={page.id} looking={looking} onLook={onLook} />}
        <More page={page} draft={draft} verbs={{ withdraw, copy, remove }} />
        {notes && <PageLook draft={draft} notes={notes} />}
      </div>
      <p role="status" className="mt-1.5 mb-3 min-h-5 text-small text-quiet">
        {draft.state === 'saving'
          ? w.plate.saving
          : draft.state === 'unsaved'
            ? `${w.plate.unsaved} ${draft.problem}`
            : draft.state === 'collided'
              ? w.pages.stale
              : clean
                ? w.plate.saved
                : `${w.plate.saved} ${w.pages.publishing(page.photos)}`}
      </p>
      {draft.state === 'collided' && ofWhole.some((field) => field in draft.faults) && (
        <p className="mb-3 flex gap-4 text-small">
          <Button look="word" onClick={() => void draft.keepMine()}>
            {w.pages.overwrite}
          </Button>
          <Button look="word" onClick={() => void draft.takeTheirs()}>
            {w.pages.reload}
          </Button>
        </p>
      )}
    </header>
  )
}

type Verb = { mutate: (input: undefined) => void }

/** What is asked for seldom: the sentence for search engines, copying, withdrawing, removing. */
function More({
  page,
  draft,
  verbs,
}: {
  page: Api['OpenedPage']
  draft: PageDraft
  verbs: { withdraw: Verb; copy: Verb; remove: Verb }
}) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <Button look="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        {w.pages.more}
      </Button>
      {open && (
        <div className="basis-full text-small">
          <label>
            <span className="sr-only">{w.pages.description}</span>
            <textarea
              rows={1}
              className="in-place"
              placeholder={w.pages.description}
              maxLength={500}
              value={draft.edit.draft.description}
              onChange={(e) => draft.changeDraft({ description: e.target.value.replaceAll('\n', ' ') })}
            />
          </label>
          <About draft={draft} />
          <p className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
            <Button look="word" onClick={() => verbs.copy.mutate(undefined)}>
              {w.pages.copy}
            </Button>
            {page.published && (
              <Link to="/workroom/embed" search={{ of: `/${page.address}` }} className={asWord}>
                {w.embeds.verb}
              </Link>
            )}
            {page.published && (
              <Button look="word" onClick={() => verbs.withdraw.mutate(undefined)}>
                {w.pages.withdraw}
              </Button>
            )}
            <Button look="word" onClick={() => verbs.remove.mutate(undefined)}>
              {w.pages.removePage}
            </Button>
          </p>
        </div>
      )}
    </>
  )
}
