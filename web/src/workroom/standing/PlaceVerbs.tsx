import { Button } from '../../kit/Button'
import { w } from '../../words'
import { type Standing, withoutCategory } from './useStand'

/** What can be done about an album in one of its categories. */
export function PlaceVerbs({
  standing,
  category,
  onPut,
}: {
  standing: Standing
  category: string
  onPut: (categories: Standing['categories']) => void
}) {
  const first = standing.categories.some((c) => c.category === category && c.putFirst)
  return (
    <>
      <Button
        look="word"
        onClick={() =>
          onPut(standing.categories.map((c) => (c.category === category ? { ...c, putFirst: !first } : c)))
        }
      >
        {first ? w.standing.asOthers : w.standing.putFirst}
      </Button>
      <Button look="word" onClick={() => onPut(withoutCategory(standing, category))}>
        {w.standing.takeOut}
      </Button>
    </>
  )
}
