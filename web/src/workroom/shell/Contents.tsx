import { Link, useRouterState } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import { w } from '../../words'
import { useAlbums, useFigures, usePages, useSession } from './data'
import { Foot } from './Foot'

/** One line of the contents: the station's name, leader dots, a live figure. */
function Line({
  to,
  name,
  figure,
  here,
  busy,
}: {
  to: string
  name: string
  figure: ReactNode
  here: boolean
  busy?: boolean
}) {
  return (
    <Link
      to={to}
      aria-current={here ? 'page' : undefined}
      className={`group flex items-baseline py-[3px] max-lg:py-0 ${here ? 'font-bold' : ''}`}
    >
      <span>{name}</span>
      <span
        className="mx-1.5 flex-1 translate-y-[-3px] border-b border-dotted border-strong-line max-lg:hidden"
        aria-hidden
      />
      <span className={`max-lg:ml-1.5 tabular-nums ${busy ? 'font-semibold text-plum' : 'font-semibold'}`}>
        {figure}
      </span>
    </Link>
  )
}

/** An entry beneath the open station. */
function Entry({
  to,
  search,
  name,
  figure,
  here,
}: {
  to: string
  search?: Record<string, string>
  name: string
  figure?: ReactNode
  here: boolean
}) {
  return (
    <Link
      to={to}
      search={search ?? {}}
      aria-current={here ? 'page' : undefined}
      className={`flex items-baseline gap-1.5 py-[3px] pl-3.5 text-small ${here ? 'font-semibold' : 'text-quiet hover:text-ink'}`}
    >
      <span className="truncate">{name}</span>
      <span className="min-w-3 flex-1 translate-y-[-3px] border-b border-dotted border-line" aria-hidden />
      <span className="tabular-nums">{figure}</span>
    </Link>
  )
}

/** The contents page down the left: stations in working order, the open one showing its own entries. */
export function Contents({ onKeys }: { onKeys: () => void }) {
  const { pathname, search } = useRouterState({
    select: (s) => ({ pathname: s.location.pathname, search: s.location.search as Record<string, string> }),
  })
  const session = useSession().data
  const f = useFigures().data
  const at = pathname.split('/')[2] ?? ''
  const stands = (station: string) => at === station || (station === 'photos' && at === 'categories')
  const waits = f ? f.failed + f.albumsNowhere : 0
  return (
    <aside className="contents-column flex flex-col border-r border-line max-lg:border-r-0 max-lg:border-b">
      <div className="px-[22px] pt-6 max-lg:flex max-lg:items-baseline max-lg:gap-3 max-lg:pt-3">
        <p className="font-display text-[1.3125rem] leading-[1.1] font-bold text-balance">
          {session?.siteTitle}
        </p>
        <p className="mt-1.5 truncate text-small text-quiet">
          {w.workroom} · {session?.name}
        </p>
      </div>
      <nav
        aria-label={w.contents.label}
        className="mt-8 flex min-h-0 flex-col gap-[3px] overflow-y-auto px-[22px] max-lg:mt-1 max-lg:flex-row max-lg:gap-6 max-lg:pb-3"
      >
        <Line
          to="/workroom"
          name={w.stations.desk}
          here={at === ''}
          figure={f ? (waits > 0 ? w.contents.waits(waits) : w.contents.quiet) : ''}
        />
        <Line
          to="/workroom/intake"
          name={w.stations.intake}
          here={stands('intake')}
          busy={!!f && f.waiting > 0}
          figure={
            f
              ? f.waiting > 0
                ? w.contents.arriving(f.waiting)
                : f.failed > 0
                  ? w.contents.failed(f.failed)
                  : ''
              : ''
          }
        />
        <Line
          to="/workroom/photos"
          name={w.stations.photos}
          here={stands('photos')}
          figure={f ? w.count(f.photos) : ''}
        />
        {stands('photos') && f && (
          <div className="mb-1.5 max-lg:hidden">
            <Entry
              to="/workroom/photos"
              search={{ without: 'title' }}
              name={w.contents.withoutTitle}
              figure={w.count(f.photosWithoutTitle)}
              here={search.without === 'title'}
            />
            <Entry
              to="/workroom/photos"
              search={{ without: 'alt' }}
              name={w.contents.withoutAlt}
              figure={w.count(f.photosWithoutAlt)}
              here={search.without === 'alt'}
            />
            <Entry
              to="/workroom/photos"
              search={{ without: 'album' }}
              name={w.contents.inNoAlbum}
              figure={w.count(f.photosInNoAlbum)}
              here={search.without === 'album'}
            />
            <Entry to="/workroom/categories" name={w.contents.categories} here={at === 'categories'} />
          </div>
        )}
        <Line
          to="/workroom/albums"
          name={w.stations.albums}
          here={stands('albums')}
          figure={f ? w.count(f.albums) : ''}
        />
        {stands('albums') && <AlbumEntries pathname={pathname} />}
        <Line
          to="/workroom/pages"
          name={w.stations.pages}
          here={stands('pages')}
          figure={f ? w.count(f.pages) : ''}
        />
        {stands('pages') && <PageEntries pathname={pathname} />}
      </nav>
      <Foot onKeys={onKeys} />
    </aside>
  )
}

function AlbumEntries({ pathname }: { pathname: string }) {
  return (
    <div className="mb-1.5 max-lg:hidden">
      {useAlbums()
        .data?.slice(0, 60)
        .map((a) => (
          <Entry
            key={a.id}
            to={`/workroom/albums/${a.id}`}
            name={a.workingName}
            figure={w.count(a.photos)}
            here={pathname.endsWith(a.id)}
          />
        ))}
    </div>
  )
}

function PageEntries({ pathname }: { pathname: string }) {
  return (
    <div className="mb-1.5 max-lg:hidden">
      {usePages()
        .data?.slice(0, 60)
        .map((p) => (
          <Entry
            key={p.id}
            to={`/workroom/pages/${p.id}`}
            name={p.draft.heading}
            figure={p.published ? '' : w.pages.draft}
            here={pathname.endsWith(p.id)}
          />
        ))}
    </div>
  )
}
