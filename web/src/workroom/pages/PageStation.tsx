import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useParams } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone } from '../shell/news'
import { FilterSettings } from './FilterSettings'
import { LayoutSettings } from './LayoutSettings'
import { MarginNotes } from './MarginNotes'
import { Preview } from './Preview'
import { usePageDraft } from './usePageDraft'

const away = w.errors.away

/** One page being set up, beside the real page in a frame. */
export function PageStation() {
  const { page: id } = useParams({ from: '/workroom/pages/$page' })
  const page = useQuery({
    queryKey: ['pages', id],
    queryFn: () => body(api.GET('/api/pages/{page}', { params: { path: { page: id } } }), away),
  })
  if (page.error && !page.data) return <p className="p-10">{page.error.message}</p>
  return page.data ? <Opened key={id} page={page.data} /> : null
}

function Opened({ page }: { page: Api['PageLine'] }) {
  const draft = usePageDraft(page)
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
    ({ done }) => tellDone(w.pages.publishedNow, done),
  )
  const withdraw = useAct(
    () => body(api.POST('/api/pages/{page}/withdraw', { params: here }), away),
    ({ done }) => tellDone(w.pages.withdrawn, done),
  )
  const remove = useAct(
    async () => {
      const done = await body(api.DELETE('/api/pages/{page}', { params: here }), away)
      await go({ to: '/workroom/pages' })
      return done
    },
    (done) => tellDone(w.pages.removed(page.draft.heading), done),
  )
  const clean = page.published && !page.changed && draft.state === 'saved'
  const field = 'in-place'
  return (
    <div className="grid h-full grid-cols-[340px_minmax(0,1fr)] max-lg:h-auto max-lg:grid-cols-1">
      <div className="overflow-y-auto border-r border-line px-[30px] pt-7 pb-10">
        <label>
          <span className="sr-only">{w.pages.heading}</span>
          <textarea
            rows={1}
            className={`${field} font-display text-[1.625rem] leading-[1.15] font-[650]`}
            placeholder={w.pages.heading}
            value={draft.edit.draft.heading}
            aria-invalid={!!draft.faults.heading}
            onChange={(e) => draft.change({ heading: e.target.value.replaceAll('\n', ' ') })}
          />
        </label>
        {draft.faults.heading && <p className="text-small font-semibold">{draft.faults.heading}</p>}
        <label>
          <span className="sr-only">{w.pages.text}</span>
          <textarea
            rows={3}
            className={`${field} mt-2`}
            placeholder={w.pages.textHint}
            value={draft.edit.draft.text}
            onChange={(e) => draft.change({ text: e.target.value })}
          />
        </label>
        {draft.faults.text && <p className="text-small font-semibold">{draft.faults.text}</p>}
        <div className="mt-4 grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-2 gap-y-1.5 border-t border-line pt-3.5 text-small">
          <span className="text-quiet">{w.pages.album}</span>
          <Link
            to="/workroom/albums/$album"
            params={{ album: page.album }}
            className="min-h-6 truncate leading-6 underline decoration-strong-line decoration-1 underline-offset-4"
          >
            {page.albumName}
          </Link>
          <span className="text-quiet">{w.pages.address}</span>
          <label className="flex items-baseline">
            /
            <input
              className={`${field} !m-0 !w-auto min-w-0 flex-1 !p-0`}
              aria-label={w.pages.address}
              value={draft.edit.address}
              aria-invalid={!!draft.faults.address}
              onChange={(e) => draft.readdress(e.target.value)}
            />
          </label>
          {draft.faults.address && <p className="col-span-2 font-semibold">{draft.faults.address}</p>}
        </div>
        <LayoutSettings layout={draft.edit.draft.layout} onChange={(layout) => draft.change({ layout })} />
        <MarginNotes
          page={page}
          layout={draft.edit.draft.layout}
          onLayout={(kind) => draft.change({ layout: { ...draft.edit.draft.layout, kind } })}
        />
        <FilterSettings content={draft.edit.draft} onChange={draft.change} />
        <div className="mt-6 border-t border-line pt-4">
          <p className="mb-1 text-small">{page.audience.sentence}</p>
          <p role="status" className="mb-3 min-h-5 text-small text-quiet">
            {draft.state === 'saving'
              ? w.plate.saving
              : draft.state === 'unsaved'
                ? `${w.plate.unsaved} ${draft.problem}`
                : draft.state === 'stale'
                  ? w.pages.stale
                  : w.plate.saved}
          </p>
          {draft.state === 'stale' && (
            <p className="mb-3 flex gap-4 text-small">
              <Button look="word" onClick={() => void draft.overwrite()}>
                {w.pages.overwrite}
              </Button>
              <Button look="word" onClick={() => void draft.takeTheirs()}>
                {w.pages.reload}
              </Button>
            </p>
          )}
          <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
            <Button
              look="next"
              disabled={clean || publish.isPending || draft.state === 'stale'}
              onClick={() => publish.mutate(undefined)}
            >
              {clean ? w.pages.upToDate : page.published ? w.pages.publishChanges : w.pages.publish}
            </Button>
            {page.published && (
              <>
                <a
                  href={`/${page.address}`}
                  target="_blank"
                  rel="noreferrer"
                  className="underline decoration-strong-line decoration-1 underline-offset-[5px]"
                >
                  {w.pages.open}
                </a>
                <Button look="word" onClick={() => withdraw.mutate(undefined)}>
                  {w.pages.withdraw}
                </Button>
              </>
            )}
            <Button look="word" onClick={() => remove.mutate(undefined)}>
              {w.pages.removePage}
            </Button>
          </div>
          {!clean && <p className="mt-2 text-small text-quiet">{w.pages.publishing(page.photos)}</p>}
        </div>
      </div>
      <Preview page={page.id} version={`${page.edited}`} title={draft.edit.draft.heading} />
    </div>
  )
}
