import { useQuery } from '@tanstack/react-query'
import { api, body } from '../../../api/client'
import { rendition } from '../../../kit/renditions'
import { w } from '../../../words'
import type { Block } from './blocks'
import { PhotoPicker } from './PhotoPicker'

/** One photo as a small picture, and the verb that chooses another. */
export function PhotoChoice({
  photo,
  block,
  beside,
  onSay,
}: {
  photo: string | null
  /** Whose place it fills: whether it is too small for that is told while one chooses. */
  block: Block
  beside: number
  onSay: (photo: string | null) => void
}) {
  const chosen = useQuery({
    queryKey: ['photo', photo],
    queryFn: () =>
      body(api.GET('/api/photos/{photo}', { params: { path: { photo: photo ?? '' } } }), w.errors.away),
    enabled: photo !== null,
  }).data
  return (
    <>
      {chosen && <img src={rendition(chosen.picture, 480)} alt="" className="max-h-14 w-auto max-w-24" />}
      <PhotoPicker
        single
        chosen={photo ? [photo] : []}
        block={block}
        beside={beside}
        onSay={([next]) => onSay(next ?? null)}
      />
    </>
  )
}
