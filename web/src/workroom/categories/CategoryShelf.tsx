import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { AddressField } from '../../kit/AddressField'
import { asWord, Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { AudienceWords } from '../access/AudienceWords'
import { MarkingLine } from '../access/marking/MarkingLine'
import { ReserveLine } from '../access/reserves/ReserveLine'
import { make } from '../pages/blocks/blocks'
import { PhotoPicker } from '../pages/blocks/PhotoPicker'
import { useAct } from '../shell/data'
import { useHand } from '../shell/hand'
import { tell } from '../shell/news'
import { CoverOpens } from '../standing/CoverOpens'
import { ShelfAlbums } from './ShelfAlbums'

const away = w.errors.away
type Line = Api['CategoryLine']
/** The page that a category has by itself: where it is, what it shows and in which order, and the albums on it. */
export function CategoryShelf({ line, onPage }: { line: Line; onPage: (page: Api['CategoryPage']) => void }) {
  const { page } = line
  const { cover: _, ...uncovered } = page
  const { opens: __, ...opensOwn } = page
  const go = useNavigate()
  const makePage = useAct(
    () => body(api.POST('/api/pages', { body: { category: line.id } }), away),
    (made) => void go({ to: '/workroom/pages/$page', params: { page: made.id } }),
  )
  const { ids, count } = useHand()
  const albums = useQuery({
    queryKey: ['albums', 'in', line.id],
    queryFn: async () =>
      (await body(api.GET('/api/albums/in/{category}', { params: { path: { category: line.id } } }), away))
        .albums,
  }).data
  function cover(photo: string) {
    onPage({ ...page, cover: photo })
    tell({ text: w.shelf.covered(line.name) })
  }
  return (
    <section aria-label={w.shelf.label(line.name)} className="grid gap-3 pt-1 pb-4 text-small">
      <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1">
        <span>{w.shelf.at}</span>
        <AddressField
          before="/category/"
          address={page.address}
          label={`${w.shelf.address}: ${line.name}`}
          onSay={(address) => onPage({ ...page, address })}
        />
        {!line.hiddenBy && (
          <>
            <a
              href={`/category/${page.address}`}
              target="_blank"
              rel="noreferrer"
              className={`ml-2 ${asWord}`}
            >
              {w.standing.open}
            </a>
            <Link
              to="/workroom/embed"
              search={{ of: `/category/${page.address}` }}
              className={`ml-2 ${asWord}`}
            >
              {w.embeds.verb}
            </Link>
          </>
        )}
      </p>
      <p>
        <AudienceWords line={line.audience} of={{ kind: 'category', id: line.id }} />
      </p>
      <ReserveLine of={{ kind: 'category', id: line.id }} />
      <MarkingLine of={{ kind: 'category', id: line.id }} />
      <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1">
        <span>{w.shelf.shows}</span>
        <span>
          <WordSelect
            label={w.shelf.which}
            value={page.beneath ? 'beneath' : 'own'}
            choices={(['own', 'beneath'] as const).map((which) => [which, w.shelf[which]])}
            onChoose={(which) => onPage({ ...page, beneath: which === 'beneath' })}
          />
          ,
        </span>
        <WordSelect
          label={w.shelf.order}
          value={page.sort}
          choices={sorts.map((sort) => [sort, w.shelf.sorts[sort]])}
          onChoose={(sort) => onPage({ ...page, sort })}
        />
      </p>
      <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1">
        <span>{page.cover ? w.shelf.coverChosen : w.shelf.coverSuits}.</span>
        {count === 1 && ids[0] !== page.cover && (
          <Button look="word" onClick={() => ids[0] && cover(ids[0])}>
            {w.shelf.coverInHand}
          </Button>
        )}
        <PhotoPicker
          single
          words={w.shelf.coverChoose}
          chosen={page.cover ? [page.cover] : []}
          block={asCover}
          beside={coversAcross}
          onSay={([photo]) => photo && cover(photo)}
        />
        {page.cover && (
          <Button look="word" onClick={() => onPage(uncovered)}>
            {w.shelf.coverBack}
          </Button>
        )}
        <span className="ml-3">{w.shelf.coverOpens}</span>
        <CoverOpens
          opens={page.opens ?? own}
          itself={[{ key: own, name: w.standing.opensOwn }]}
          onSay={(opens) => onPage(opens === own ? opensOwn : { ...page, opens })}
        />
        {!page.opens && (
          <Button look="word" disabled={makePage.isPending} onClick={() => makePage.mutate(undefined)}>
            {w.shelf.makePage}
          </Button>
        )}
      </p>
      {albums && <ShelfAlbums line={line} albums={albums} />}
    </section>
  )
}

/** Covers stand three beside each other, as a rule. */
const coversAcross = 3
/** The page that it has by itself. */
const own = 'own'
const asCover = make('photo')
const sorts = ['newest', 'oldest', 'title', 'hand'] as const
