import { useQuery } from '@tanstack/react-query'
import { useRouter } from '@tanstack/react-router'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { DecideLine } from '../sheet/DecideLine'
import { type Decided, decidingKeys, useDecide } from '../sheet/useDecide'
import { hand, useHand } from '../shell/hand'
import { useKeys } from '../shell/keys'
import { Empty, Heading } from '../shell/Station'
import { SideBySide } from './SideBySide'

/** So many photos can be compared at once. */
const most = 4

/** Two to four photos of the hand at the same zoom and place, decided and rated there. */
export function BesideStation() {
  const { ids } = useHand()
  const { history } = useRouter()
  const [focus, setFocus] = useState(0)
  const shown = ids.slice(0, most)
  const photos =
    useQuery({
      queryKey: ['sheet', 'these', shown],
      queryFn: async () =>
        (await body(api.POST('/api/photos/these', { body: { photos: [...shown] } }), w.errors.away)).photos,
      placeholderData: (before) => before,
    }).data ?? []
  const decide = useDecide()
  const at = Math.min(focus, Math.max(0, photos.length - 1))
  function go(what: Decided) {
    const photo = photos[at]
    if (!photo) return
    decide.mutate({ photo: photo.id, ...what })
    setFocus((at + 1) % photos.length)
  }
  useKeys({
    ArrowRight: () => setFocus(Math.min(photos.length - 1, at + 1)),
    ArrowLeft: () => setFocus(Math.max(0, at - 1)),
    ' ': () => photos[at] && hand.letGo([photos[at].id]),
    Escape: () => history.back(),
    ...decidingKeys(go),
  })
  return (
    <div className="px-[30px] pt-7 pb-8">
      <Heading
        title={w.beside.title}
        lead={ids.length > most ? w.hand.firstOf(most, ids.length) : undefined}
        right={
          <Button look="word" hint="Esc" className="text-small" onClick={() => history.back()}>
            {w.describing.back}
          </Button>
        }
      />
      {ids.length < 2 ? (
        <Empty title={w.beside.few} lead={w.beside.fewLead} />
      ) : (
        <SideBySide
          photos={photos}
          focus={at}
          onFocus={setFocus}
          marked={(p) => p.id === photos[at]?.id}
          beneath={(p, i) => (
            <DecideLine
              plate={p}
              bare={i === at}
              onDecide={(what) => {
                setFocus(i)
                decide.mutate({ photo: p.id, ...what })
              }}
            />
          )}
        />
      )}
    </div>
  )
}
