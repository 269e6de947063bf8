import { Link, useNavigate } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { w } from '../../words'
import { AudienceWords } from '../access/AudienceWords'
import { searchFrom } from '../narrowings/kept'
import { useAct, useCategories } from '../shell/data'
import { tellDone } from '../shell/news'
import { useStand } from '../standing/useStand'

const away = w.errors.away

/** An album's words, each edited where it stands, and who can see it. */
export function AlbumHead({ album }: { album: Api['AlbumLine'] }) {
  const go = useNavigate()
  const stand = useStand()
  const categories = useCategories().data ?? []
  const { shown } = album.standing
  const ownPage =
    shown && album.standing.categories.some((p) => categories.some((c) => c.id === p.category && !c.hiddenBy))
  const change = useAct((words: { workingName?: string; title?: string; description?: string }) =>
    body(
      api.PATCH('/api/albums/{album}', {
        params: { path: { album: album.id }, header: { 'If-Match': album.version } },
        body: words,
      }),
      away,
    ),
  )
  const makePage = useAct(
    () => body(api.POST('/api/pages', { body: { album: album.id } }), away),
    (page) => void go({ to: '/workroom/pages/$page', params: { page: page.id } }),
  )
  const remove = useAct(
    async () => {
      const done = await body(
        api.DELETE('/api/albums/{album}', { params: { path: { album: album.id } } }),
        away,
      )
      // One leaves before everything is read again: what is gone is not asked for.
      await go({ to: '/workroom/albums' })
      return done
    },
    (done) => tellDone(w.albums.removed(album.workingName, album.page !== null), done),
  )
  function words(name: 'workingName' | 'title' | 'description', label: string, look: string) {
    return (
      <textarea
        key={`${name}${album[name]}`}
        aria-label={label}
        placeholder={name === 'title' ? w.albums.noTitle(album.workingName) : label}
        rows={1}
        defaultValue={album[name]}
        className={`in-place ${look}`}
        onBlur={(e) => {
          const text = e.target.value.trim()
          if (text !== album[name] && (text !== '' || name !== 'workingName')) change.mutate({ [name]: text })
        }}
        onKeyDown={(e) => {
          if (e.key === 'Enter' || e.key === 'Escape') {
            e.preventDefault()
            e.stopPropagation()
            e.currentTarget.blur()
          }
        }}
      />
    )
  }
  return (
    <header className="mb-3.5 grid grid-cols-[minmax(0,1fr)_auto] items-start gap-x-8">
      <div className="max-w-[46rem]">
        <h1 className="sr-only">{album.workingName}</h1>
        {words('workingName', w.albums.name, 'font-display text-title font-[650]')}
        <p className="mt-0.5 flex flex-wrap items-baseline gap-x-4 text-quiet">
          <span>
            {w.photos(album.photos)}.{' '}
            <AudienceWords line={album.audience} of={{ kind: 'album', id: album.id }}>
              {album.held && (
                <Link
                  to="/workroom/photos"
                  search={searchFrom(album.held.search)}
                  className="text-small underline decoration-strong-line decoration-1 underline-offset-4"
                >
                  {w.clearance.see}
                </Link>
              )}
            </AudienceWords>
          </span>
          <Button
            look="word"
            className="text-small text-ink"
            onClick={() =>
              stand.mutate({
                album,
                next: { shown: !shown },
                told: shown ? w.standing.hidden(album.workingName) : w.standing.shown(album.workingName),
              })
            }
          >
            {shown ? w.standing.hide : w.standing.show}
          </Button>
          {ownPage && (
            <>
              <a
                href={`/album/${album.standing.address}`}
                target="_blank"
                rel="noreferrer"
                className={`text-small text-ink ${asWord}`}
              >
                {w.standing.open}
              </a>
              <Link
                to="/workroom/embed"
                search={{ of: `/album/${album.standing.address}` }}
                className={`text-small text-ink ${asWord}`}
              >
                {w.embeds.verb}
              </Link>
            </>
          )}
        </p>
        <div className="mt-2 grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-2.5 text-small">
          <span className="text-quiet">{w.albums.publicTitle}</span>
          {words('title', w.albums.publicTitle, '!m-0 !w-full')}
          <span className="text-quiet">{w.albums.description}</span>
          {words('description', w.albums.description, '!m-0 !w-full')}
        </div>
      </div>
      <div className="flex items-baseline gap-5 pt-1">
        <Button look="word" className="text-small" onClick={() => remove.mutate(undefined)}>
          {w.albums.remove}
        </Button>
        {album.page ? (
          <Link
            to="/workroom/pages/$page"
            params={{ page: album.page }}
            className="rounded-control border border-strong-line px-3 py-1.5 hover:border-ink"
          >
            {w.albums.page}
          </Link>
        ) : (
          <Button look="next" disabled={album.photos === 0} onClick={() => makePage.mutate(undefined)}>
            {w.albums.makePage}
          </Button>
        )}
      </div>
    </header>
  )
}
