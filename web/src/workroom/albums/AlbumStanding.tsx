import type { Api } from '../../api/client'
import { AddressField } from '../../kit/AddressField'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useCategories } from '../shell/data'
import { CategoryChoice } from '../standing/CategoryChoice'
import { CoverOpens } from '../standing/CoverOpens'
import { useStand, withCategory } from '../standing/useStand'
import { AlbumDate } from './AlbumDate'
import { AlbumPlace } from './AlbumPlace'
import { AlbumTags } from './AlbumTags'

/** The page that was made for it. */
const madeForIt = 'made for it'

/** What visitors may say about its photos. */
const talkOf = ({ comments, ratings }: Api['AlbumStanding']) =>
  comments ? (ratings ? 'both' : 'comments') : ratings ? 'ratings' : 'nothing'

/** Where an album stands, read as sentences whose parts are pressed to change them. */
export function AlbumStanding({ album }: { album: Api['AlbumLine'] }) {
  const { standing } = album
  const stand = useStand()
  const categories = useCategories().data ?? []
  const say = (next: Partial<typeof standing>, told?: string) =>
    stand.mutate({ album, next, ...(told && { told }) })
  // In the tree's order, as everywhere.
  const places = categories.flatMap((c) => {
    const place = standing.categories.find((p) => p.category === c.id)
    return place ? [{ category: c, putFirst: place.putFirst ?? false }] : []
  })
  return (
    <section aria-label={w.standing.label} className="mb-3 grid gap-1.5 text-small">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <p className="flex flex-wrap items-baseline gap-x-2 gap-y-1">
          <span>{places.length === 0 ? w.standing.nowhere : w.standing.standsIn}</span>
          {places.map((p) => (
            <AlbumPlace key={p.category.id} album={album} place={p} onSay={say} />
          ))}
          <CategoryChoice
            trigger={<Button look="word">{w.standing.addCategory}</Button>}
            without={standing.categories.map((c) => c.category)}
            onChoose={(c) =>
              say({ categories: withCategory(standing, c.id) }, w.standing.putInto(album.workingName, c.name))
            }
          />
        </p>
        <AlbumDate dated={standing.dated} onSay={(dated) => say({ dated })} />
        <AlbumTags tags={standing.tags} onSay={(tags) => say({ tags })} />
      </div>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1">
          <span>{w.standing.at}</span>
          <AddressField
            before="/album/"
            address={standing.address}
            label={w.standing.address}
            onSay={(address) => say({ address })}
          />
          <span>{w.standing.itsCover}</span>
          <CoverOpens
            opens={standing.opens ?? (album.page ? madeForIt : album.id)}
            itself={[
              ...(album.page ? [{ key: madeForIt, name: w.standing.opensItself }] : []),
              { key: album.id, name: w.standing.opensOwn },
            ]}
            onSay={(opens) =>
              // Where there is none made for it yet, one that is made is opened.
              say({ opens: opens === madeForIt || (opens === album.id && !album.page) ? null : opens })
            }
          />
        </p>
        <p className="flex flex-wrap items-baseline gap-x-1.5">
          <span>{w.standing.visitors}</span>
          <WordSelect
            label={w.standing.orders}
            value={standing.byLot ? 'lot' : 'own'}
            choices={(['own', 'lot'] as const).map(
              (order) => [order, w.standing.visitorsOrder[order]] as const,
            )}
            onChoose={(order) => say({ byLot: order === 'lot' })}
          />
        </p>
        <p className="flex flex-wrap items-baseline gap-x-1.5">
          {talkOf(standing) === 'nothing' ? (
            <span>{w.comments.visitors}</span>
          ) : (
            <WordSelect
              label={w.comments.whoLabel}
              value={standing.talkKnown ? 'known' : 'everyone'}
              choices={(['everyone', 'known'] as const).map((who) => [who, w.comments.who[who]] as const)}
              onChoose={(who) => say({ talkKnown: who === 'known' })}
            />
          )}
          <span>{w.comments.may}</span>
          <WordSelect
            label={w.comments.mayLabel}
            value={talkOf(standing)}
            choices={(['nothing', 'comments', 'ratings', 'both'] as const).map(
              (what) => [what, w.comments.mayWhat[what]] as const,
            )}
            onChoose={(what) =>
              say({
                comments: what === 'comments' || what === 'both',
                ratings: what === 'ratings' || what === 'both',
              })
            }
          />
        </p>
        <Button
          look="word"
          aria-pressed={standing.putFirst}
          className={standing.putFirst ? 'font-semibold text-plum' : ''}
          onClick={() => say({ putFirst: !standing.putFirst })}
        >
          {w.standing.everywhere}
        </Button>
      </div>
    </section>
  )
}
