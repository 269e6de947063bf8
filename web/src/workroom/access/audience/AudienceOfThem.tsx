import { useState } from 'react'
import { api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { Dialog } from '../../../kit/Dialog'
import { w } from '../../../words'
import { useAct } from '../../shell/data'
import { hand, useHand } from '../../shell/hand'
import { tellDone } from '../../shell/news'
import { AudienceChoice } from './AudienceChoice'
import type { Audience } from './data'

const everyone: Audience = { who: 'everyone', from: null, until: null, chosen: [] }

/** Says of all in hand who of the visitors may see them. */
export function AudienceOfThem({
  open,
  onOpenChange,
}: {
  open: boolean
  onOpenChange: (open: boolean) => void
}) {
  return (
    <>
      <Button look="word" hint="U" onClick={() => onOpenChange(true)}>
        {w.audience.verb}
      </Button>
      {open && <Ask onClose={() => onOpenChange(false)} />}
    </>
  )
}

function Ask({ onClose }: { onClose: () => void }) {
  const { count } = useHand()
  const [audience, setAudience] = useState(everyone)
  const say = useAct(
    async () =>
      body(api.POST('/api/photos/audience', { body: { ...(await hand.reach()), audience } }), w.errors.away),
    (done) => {
      onClose()
      tellDone(w.audience.saidOfPhotos(done.photos), done)
    },
  )
  const isMissing = audience.who === 'chosen' && !audience.chosen?.length
  return (
    <Dialog open onClose={onClose} title={w.audience.whoSeesThem(count)} wide>
      <p className="mt-2 text-quiet">{w.audience.photosLead(count)}</p>
      <div className="mt-4">
        <AudienceChoice kind="photo" audience={audience} chosen={[]} onChange={setAudience} />
      </div>
      <p className="border-t border-line pt-4 pl-6">
        <Button look="next" disabled={isMissing || say.isPending} onClick={() => say.mutate(undefined)}>
          {w.audience.say}
        </Button>
      </p>
    </Dialog>
  )
}
