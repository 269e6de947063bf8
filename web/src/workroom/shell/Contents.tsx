import { Link, useRouterState } from '@tanstack/react-router'
import type { ReactNode } from 'react'
import type { Api } from '../../api/client'
import { w } from '../../words'
import { searchFrom } from '../narrowings/kept'
import { narrowingOf, none } from '../narrowings/narrowing'
import { useAlbums, useFigures, useKeptNarrowings, usePages, usePriceLists, useSession } from './data'
import { Foot } from './Foot'

/** One line of the contents: the station's name, leader dots, a live figure. Folded, the figure beneath the name in small. */
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
      className={`group contents-line flex items-baseline py-[3px] max-lg:py-0 ${here ? 'font-bold' : ''}`}
    >
      <span>{name}</span>
      {figure !== '' && (
        <>
          <span
            className="leader mx-1.5 flex-1 translate-y-[-3px] border-b border-dotted border-strong-line max-lg:hidden"
            aria-hidden
          />
          <span
            className={`max-lg:ml-1.5 tabular-nums ${busy ? 'font-semibold text-plum' : 'font-semibold'}`}
          >
            {figure}
          </span>
        </>
      )}
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
      className={`flex items-baseline gap-1.5 py-[3px] pl-3.5 text-small max-lg:pl-0 ${here ? 'font-semibold' : 'text-quiet hover:text-ink'}`}
    >
      <span className="truncate">{name}</span>
      {figure !== undefined && figure !== '' && (
        <>
          <span
            className="min-w-3 flex-1 translate-y-[-3px] border-b border-dotted border-line"
            aria-hidden
          />
          <span className="tabular-nums">{figure}</span>
        </>
      )}
    </Link>
  )
}

/** What the intake's line ends in: what arrives, what is unpacked, what failed. */
function arriving(f: Api['Figures']) {
  if (f.waiting > 0) return w.contents.arriving(f.waiting)
  if (f.unpacking > 0) return w.contents.unpacking(f.unpacking)
  if (f.failed > 0) return w.contents.failed(f.failed)
  return f.contributed > 0 ? w.contributions.waits(f.contributed) : ''
}

const stationOf: Record<string, string> = {
  categories: 'photos',
  tags: 'photos',
  describe: 'photos',
  beside: 'photos',
  correct: 'photos',
  repeats: 'photos',
  files: 'photos',
  bin: 'photos',
  menu: 'pages',
  look: 'pages',
  watermark: 'pages',
  site: 'pages',
  starters: 'pages',
  comments: 'visitors',
  favourites: 'visitors',
  records: 'visitors',
  contributions: 'intake',
  clearance: 'visitors',
  members: 'visitors',
  prices: 'sales',
  orders: 'sales',
  shop: 'sales',
  coupons: 'sales',
  sold: 'sales',
  fit: 'sales',
}

/** The contents page down the left: stations in working order, the open one showing its own entries. */
export function Contents({
  folded,
  onFold,
  onKeys,
}: {
  folded: boolean
  onFold: () => void
  onKeys: () => void
}) {
  const pathname = useRouterState({ select: (s) => s.location.pathname })
  const session = useSession().data
  const f = useFigures().data
  const at = pathname.split('/')[2] ?? ''
  const stands = (station: string) => (stationOf[at] ?? at) === station
  const waits = f ? f.failed + f.albumsNowhere + f.commentsWaiting + f.sent + f.contributed + f.orders : 0
  return (
    <aside className="contents-column flex flex-col border-r border-line max-lg:border-r-0 max-lg:border-b">
      <div className="contents-head px-[22px] pt-6 max-lg:flex max-lg:items-baseline max-lg:gap-3 max-lg:pt-3">
        <p className="font-display text-[1.3125rem] leading-[1.1] font-bold text-balance">
          {session?.siteTitle}
        </p>
        <p className="mt-1.5 truncate text-small text-quiet">
          {w.workroom} · {session?.name}
        </p>
        {session && !session.isOpen && (
          <Link
            to="/workroom/site"
            className="mt-1 inline-block min-h-6 text-small font-semibold underline decoration-strong-line underline-offset-4"
          >
            {w.opening.closedLine}
          </Link>
        )}
      </div>
      <nav
        aria-label={w.contents.label}
        className="contents-list mt-8 flex min-h-0 flex-col gap-[3px] overflow-y-auto px-[22px] max-lg:mt-1 max-lg:flex-row max-lg:flex-wrap max-lg:gap-x-6 max-lg:gap-y-0 max-lg:pb-3"
      >
        <Line
          to="/workroom"
          name={w.stations.desk}
          here={at === ''}
          figure={f ? (waits > 0 ? w.contents.waits(waits) : w.contents.quiet) : ''}
        />
        {(at === '' || at === 'history') && !folded && (
          <div className="contents-entries mb-1.5">
            <Entry to="/workroom/history" name={w.contents.history} here={at === 'history'} />
          </div>
        )}
        <Line
          to="/workroom/intake"
          name={w.stations.intake}
          here={stands('intake')}
          busy={!!f && f.waiting + f.unpacking > 0}
          figure={f ? arriving(f) : ''}
        />
        {stands('intake') && !folded && (
          <IntakeEntries pathname={pathname} contributed={f?.contributed ?? 0} />
        )}
        <Line
          to="/workroom/photos"
          name={w.stations.photos}
          here={stands('photos')}
          figure={f ? w.count(f.photos) : ''}
        />
        {stands('photos') && f && !folded && <PhotoEntries figures={f} />}
        <Line
          to="/workroom/albums"
          name={w.stations.albums}
          here={stands('albums')}
          figure={f ? w.count(f.albums) : ''}
        />
        {stands('albums') && !folded && <AlbumEntries pathname={pathname} />}
        <Line
          to="/workroom/pages"
          name={w.stations.pages}
          here={stands('pages')}
          figure={f ? w.count(f.pages) : ''}
        />
        {stands('pages') && !folded && <PageEntries pathname={pathname} />}
        <Line
          to="/workroom/comments"
          name={w.stations.visitors}
          here={stands('visitors')}
          busy={!!f && f.commentsWaiting > 0}
          figure={f && f.commentsWaiting > 0 ? w.comments.waits(f.commentsWaiting) : ''}
        />
        {stands('visitors') && !folded && (
          <div className="contents-entries mb-1.5">
            <Entry to="/workroom/comments" name={w.comments.title} here={at === 'comments'} />
            <Entry
              to="/workroom/favourites"
              name={w.favourites.title}
              figure={f && f.sent > 0 ? w.favourites.waits(f.sent) : ''}
              here={at === 'favourites'}
            />
            <Entry
              to="/workroom/clearance"
              name={w.clearance.title}
              figure={f && f.held > 0 ? w.clearance.heldShort(f.held) : ''}
              here={at === 'clearance'}
            />
            <Entry
              to="/workroom/members"
              name={w.members.title}
              figure={f && f.asking > 0 ? w.members.askingShort(f.asking) : ''}
              here={at === 'members'}
            />
            <Entry to="/workroom/records" name={w.records.title} here={at === 'records'} />
          </div>
        )}
        <Line
          to="/workroom/orders"
          name={w.stations.sales}
          here={stands('sales')}
          figure={f && f.orders > 0 ? w.orders.waits(f.orders) : ''}
        />
        {stands('sales') && !folded && <SalesEntries pathname={pathname} orders={f?.orders ?? 0} />}
        {session?.role === 'owner' && (
          <Line to="/workroom/people" name={w.people.title} here={at === 'people'} figure="" />
        )}
      </nav>
      <Foot folded={folded} onFold={onFold} onKeys={onKeys} />
    </aside>
  )
}

function IntakeEntries({ pathname, contributed }: { pathname: string; contributed: number }) {
  return (
    <div className="contents-entries mb-1.5">
      <Entry
        to="/workroom/contributions"
        name={w.contributions.title}
        figure={contributed > 0 ? w.contributions.waits(contributed) : ''}
        here={pathname.endsWith('/contributions')}
      />
      <Entry to="/workroom/intake/scanner" name={w.contents.scanner} here={pathname.endsWith('/scanner')} />
      <Entry to="/workroom/intake/folders" name={w.contents.folders} here={pathname.endsWith('/folders')} />
    </div>
  )
}

/** What the photos' sheet is often narrowed to, and what lies beside it. Lines that would end in nothing are left out. */
function PhotoEntries({ figures: f }: { figures: Api['Figures'] }) {
  const { at, said } = useRouterState({
    select: (s) => ({
      at: s.location.pathname.split('/').slice(2).join('/'),
      said: JSON.stringify(narrowingOf(s.location.search)),
    }),
  })
  const narrowed = [
    [{ missing: 'title' }, w.contents.withoutTitle, f.photosWithoutTitle],
    [{ missing: 'alt' }, w.contents.withoutAlt, f.photosWithoutAlt],
    [{ album: none }, w.contents.inNoAlbum, f.photosInNoAlbum],
    [{ decision: 'leave_out' }, w.contents.leftOut, f.leftOut],
  ] as const
  const kept = useKeptNarrowings().data ?? []
  return (
    <div className="contents-entries mb-1.5">
      {kept.slice(0, 60).map((k) => (
        <Entry
          key={k.id}
          to="/workroom/photos"
          search={searchFrom(k.search)}
          name={k.name}
          figure={w.count(k.photos)}
          here={at === 'photos' && said === JSON.stringify(narrowingOf(searchFrom(k.search)))}
        />
      ))}
      {narrowed.map(
        ([search, name, count]) =>
          (count > 0 || name !== w.contents.leftOut) && (
            <Entry
              key={name}
              to="/workroom/photos"
              search={search}
              name={name}
              figure={w.count(count)}
              here={at === 'photos' && said === JSON.stringify(search)}
            />
          ),
      )}
      <Entry
        to="/workroom/repeats"
        name={w.contents.repeats}
        figure={f.repeats > 0 ? w.count(f.repeats) : w.contents.nothing}
        here={at === 'repeats'}
      />
      <Entry to="/workroom/categories" name={w.contents.categories} here={at === 'categories'} />
      <Entry to="/workroom/tags" name={w.tags.title} here={at === 'tags'} />
      <Entry to="/workroom/describe/file" name={w.file.title} here={at === 'describe/file'} />
      <Entry
        to="/workroom/files"
        name={w.contents.files}
        figure={f.files > 0 ? w.count(f.files) : ''}
        here={at === 'files'}
      />
      <Entry
        to="/workroom/bin"
        name={w.contents.bin}
        figure={f.binned > 0 ? w.count(f.binned) : ''}
        here={at === 'bin'}
      />
    </div>
  )
}

function AlbumEntries({ pathname }: { pathname: string }) {
  return (
    <div className="contents-entries mb-1.5">
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

function SalesEntries({ pathname, orders }: { pathname: string; orders: number }) {
  return (
    <div className="contents-entries mb-1.5">
      <Entry
        to="/workroom/orders"
        name={w.orders.title}
        figure={orders > 0 ? w.orders.waits(orders) : ''}
        here={pathname === '/workroom/orders'}
      />
      <Entry to="/workroom/sold" name={w.sold.title} here={pathname === '/workroom/sold'} />
      <Entry to="/workroom/shop" name={w.shop.title} here={pathname === '/workroom/shop'} />
      <Entry to="/workroom/coupons" name={w.coupons.title} here={pathname === '/workroom/coupons'} />
      <Entry to="/workroom/prices" name={w.prices.title} here={pathname === '/workroom/prices'} />
      {usePriceLists().data?.lists.map((list) => (
        <Entry
          key={list.id}
          to={`/workroom/prices/${list.id}`}
          name={list.name}
          figure={w.count(list.offered)}
          here={pathname.endsWith(list.id)}
        />
      ))}
    </div>
  )
}

function PageEntries({ pathname }: { pathname: string }) {
  return (
    <div className="contents-entries mb-1.5">
      <Entry to="/workroom/site" name={w.opening.title} here={pathname === '/workroom/site'} />
      <Entry to="/workroom/look" name={w.themes.title} here={pathname === '/workroom/look'} />
      <Entry to="/workroom/watermark" name={w.watermark.title} here={pathname === '/workroom/watermark'} />
      <Entry to="/workroom/menu" name={w.menu.title} here={pathname === '/workroom/menu'} />
      {usePages()
        .data?.slice(0, 60)
        .map((p) => (
          <Entry
            key={p.id}
            to={`/workroom/pages/${p.id}`}
            name={p.title}
            figure={p.published ? (p.posted ? w.pages.post : '') : w.pages.draft}
            here={pathname.endsWith(p.id)}
          />
        ))}
    </div>
  )
}
