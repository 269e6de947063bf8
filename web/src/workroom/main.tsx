import './workroom.css'
import { QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query'
import {
  createRootRoute,
  createRoute,
  createRouter,
  Link,
  RouterProvider,
  useSearch,
} from '@tanstack/react-router'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { z } from 'zod'
import { ApiProblem } from '../api/client'
import { w } from '../words'
import { AccountStation } from './access/AccountStation'
import { AlbumStation } from './albums/AlbumStation'
import { AlbumsStation } from './albums/AlbumsStation'
import { CategoriesStation } from './categories/CategoriesStation'
import { ClearanceStation } from './clearance/ClearanceStation'
import { CommentsStation } from './comments/CommentsStation'
import { ContributionsStation } from './contributions/ContributionsStation'
import { CorrectStation } from './corrections/CorrectStation'
import { CouponsStation } from './coupons/CouponsStation'
import { DescribeStation } from './describing/DescribeStation'
import { FileStation } from './describing/FileStation'
import { WordsTable } from './describing/table/WordsTable'
import { DeskStation } from './desk/DeskStation'
import { HistoryStation } from './desk/HistoryStation'
import { EmbedStation } from './embeds/EmbedStation'
import { layouts, sizes } from './embeds/embed'
import { FavouritesStation } from './favourites/FavouritesStation'
import { FoldersStation } from './intake/FoldersStation'
import { IntakeStation } from './intake/IntakeStation'
import { OneIntake } from './intake/OneIntake'
import { ScannerStation } from './intake/ScannerStation'
import { MembersStation } from './members/MembersStation'
import { names } from './narrowings/narrowing'
import { SiteStation } from './opening/SiteStation'
import { OrdersStation } from './orders/OrdersStation'
import { MenuStation } from './pages/MenuStation'
import { PageStation } from './pages/PageStation'
import { PagesStation } from './pages/PagesStation'
import { Invited, WayIn } from './people/ByLink'
import { PeopleStation } from './people/PeopleStation'
import { BesideStation } from './photos/BesideStation'
import { BinStation } from './photos/BinStation'
import { FilesStation } from './photos/FilesStation'
import { PhotosStation } from './photos/PhotosStation'
import { RepeatsStation } from './photos/RepeatsStation'
import { FitStation } from './prices/fit/FitStation'
import { PriceListStation } from './prices/PriceListStation'
import { PricesStation } from './prices/PricesStation'
import { RecordsStation } from './records/RecordsStation'
import { sorts } from './sheet/useSheet'
import { Frame } from './shell/Frame'
import { ShopStation } from './shop/ShopStation'
import { SoldStation } from './sold/SoldStation'
import { StartersStation } from './starters/StartersStation'
import { TagsStation } from './tags/TagsStation'
import { LookStation } from './themes/LookStation'
import { WatermarkStation } from './watermarks/WatermarkStation'

const said = z.string().optional().catch(undefined)

/** What the address of a sheet says; anything it cannot mean is passed over. */
const sheetSearch = z.object({
  q: said,
  ...(Object.fromEntries(names.map((name) => [name, said])) as Record<(typeof names)[number], typeof said>),
  sort: z.enum(sorts).optional().catch(undefined),
  reversed: z.stringbool().or(z.boolean()).optional().catch(undefined),
  photo: said,
})

const root = createRootRoute({
  component: Frame,
  notFoundComponent: () => (
    <div className="p-10">
      <h1 className="text-title">{w.errors.missing}</h1>
      <Link to="/workroom" className="underline underline-offset-4">
        {w.errors.back}
      </Link>
    </div>
  ),
})

/** What is corrected: a photo that the address names, or else what is in hand. */
function Correct() {
  const { photo } = useSearch({ from: '/workroom/correct' })
  return <CorrectStation photo={photo} />
}

const routes = [
  createRoute({ getParentRoute: () => root, path: '/workroom', component: DeskStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/history', component: HistoryStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/account', component: AccountStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/intake', component: IntakeStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/photos',
    component: PhotosStation,
    // The album that what is found is to fill.
    validateSearch: sheetSearch.extend({ fills: said }),
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/intake/scanner', component: ScannerStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/intake/folders', component: FoldersStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/intake/$intake', component: OneIntake }),
  createRoute({ getParentRoute: () => root, path: '/workroom/beside', component: BesideStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/correct',
    component: Correct,
    validateSearch: z.object({ photo: said }),
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/describe', component: DescribeStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/describe/table', component: WordsTable }),
  createRoute({ getParentRoute: () => root, path: '/workroom/describe/file', component: FileStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/categories',
    component: CategoriesStation,
    // The category whose page is set.
    validateSearch: z.object({ open: said }),
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/tags', component: TagsStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/repeats',
    component: RepeatsStation,
    validateSearch: z.object({ of: said }),
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/files', component: FilesStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/bin',
    component: BinStation,
    validateSearch: sheetSearch,
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/albums', component: AlbumsStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/albums/$album',
    component: AlbumStation,
    validateSearch: sheetSearch,
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/pages', component: PagesStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/menu', component: MenuStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/starters', component: StartersStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/site', component: SiteStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/comments', component: CommentsStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/favourites',
    component: FavouritesStation,
    // Those of one album, and whose are open.
    validateSearch: z.object({ album: said, choice: said }),
  }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/contributions',
    component: ContributionsStation,
    // What is listed, and which is open.
    validateSearch: z.object({ show: z.enum(['all', 'links']).optional().catch(undefined), one: said }),
  }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/records',
    component: RecordsStation,
    // Whose, and of what.
    validateSearch: z.object({
      member: said,
      entry: said,
      what: z.enum(['opened', 'saved', 'refused']).optional().catch(undefined),
    }),
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/clearance', component: ClearanceStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/people', component: PeopleStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/members', component: MembersStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/invited', component: Invited }),
  createRoute({ getParentRoute: () => root, path: '/workroom/way-in', component: WayIn }),
  createRoute({ getParentRoute: () => root, path: '/workroom/look', component: LookStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/watermark', component: WatermarkStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/orders',
    component: OrdersStation,
    validateSearch: z.object({
      which: z.enum(['unpaid', 'all']).optional().catch(undefined),
      q: said,
      order: said,
    }),
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/shop', component: ShopStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/coupons', component: CouponsStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/sold',
    component: SoldStation,
    validateSearch: z.object({
      year: z.coerce.number().int().min(1).max(9998).optional().catch(undefined),
      currency: said,
    }),
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/prices', component: PricesStation }),
  createRoute({ getParentRoute: () => root, path: '/workroom/prices/$list', component: PriceListStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/fit/$album',
    component: FitStation,
    // Only photos of which nothing is offered.
    validateSearch: z.object({ only: z.literal('nothing').optional().catch(undefined) }),
  }),
  createRoute({ getParentRoute: () => root, path: '/workroom/pages/$page', component: PageStation }),
  createRoute({
    getParentRoute: () => root,
    path: '/workroom/embed',
    component: EmbedStation,
    // What is embedded, by its address on the site, and how it stands there.
    validateSearch: z.object({
      of: said,
      layout: z.enum(layouts).optional().catch(undefined),
      size: z.enum(sizes).optional().catch(undefined),
      most: z.coerce.number().optional().catch(undefined),
    }),
  }),
]

const router = createRouter({
  routeTree: root.addChildren(routes),
  defaultPreload: false,
  // Plain addresses: what is said is text, and nothing is put in quotes.
  parseSearch: (text) => Object.fromEntries(new URLSearchParams(text)),
  stringifySearch: (search) => {
    const said = Object.entries(search).filter(([, value]) => value !== undefined && value !== '')
    const text = new URLSearchParams(said.map(([name, value]) => [name, String(value)])).toString()
    return text === '' ? '' : `?${text}`
  },
})

declare module '@tanstack/react-router' {
  interface Register {
    router: typeof router
  }
}

const client: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    // What is opened after a session has ended shows where one signs in; what stands there already keeps what is typed in it.
    onError: (problem, query) => {
      if (problem instanceof ApiProblem && problem.kind === 'signed-out' && query.state.data === undefined)
        void client.invalidateQueries({ queryKey: ['session'] })
    },
  }),
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // What the server refuses it will refuse again; only a server that is away is worth asking twice.
      retry: (count, problem) =>
        count < 4 && (!(problem instanceof ApiProblem) || problem.status === 0 || problem.status === 503),
      retryDelay: (count) => Math.min(500 * 2 ** count, 5_000),
    },
  },
})

const place = document.getElementById('workroom')
if (place)
  createRoot(place).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  )
