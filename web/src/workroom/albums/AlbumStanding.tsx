import type { Api } from '../../api/client'
import { AddressField } from '../../kit/AddressField'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useCategories } from '../shell/data'
import { CategoryChoice } from '../standing/CategoryChoice'
import { useStand, withCategory } from '../standing/useStand'
import { AlbumDate } from './AlbumDate'
import { AlbumPlace } from './AlbumPlace'
import { AlbumTags } from './AlbumTags'

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
          {album.page && (
            <>
              <span>{w.standing.itsCover}</span>
              <WordSelect
                label={w.standing.opens}
                value={standing.opens === album.id ? 'own' : 'itself'}
                choices={[
                  ['itself', w.standing.opensItself],
                  ['own', w.standing.opensOwn],
                ]}
                onChoose={(opens) => say({ opens: opens === 'own' ? album.id : null })}
              />
            </>
          )}
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
