import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { type ReactNode, useState } from 'react'
import { api, body } from '../../api/client'
import { asWord, Button, KeyHint } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { AudienceOfThem } from '../access/audience/AudienceOfThem'
import { ClearThem } from '../clearance/ClearPhotos'
import { hand, useHand } from '../shell/hand'
import { useKeys } from '../shell/keys'
import { SaveCopies } from './SaveCopies'
import { Undecided } from './Undecided'
import type { SheetQuery } from './useSheet'
import { CategoriseThem, PutInAlbum, TagThem, useThrow } from './verbs'

type Verb = 'album' | 'tag' | 'category' | 'copies' | 'clear' | 'audience'

/** The line above the work: how many photos are in hand, and the verbs that fit where one stands. */
export function HandLine({
  children,
  rest,
  query,
  total = 0,
}: {
  children?: ReactNode
  rest: ReactNode
  /** The sheet one stands at, and how many photos it has. */
  query: SheetQuery
  total?: number | undefined
}) {
  const { count } = useHand()
  const [open, setOpen] = useState<Verb | null>(null)
  const [seeing, setSeeing] = useState(false)
  const go = useNavigate()
  const some = count > 0
  const verb = (name: Verb) => ({
    open: open === name,
    onOpenChange: (now: boolean) => setOpen(now ? name : null),
  })
  const throwThem = useThrow()
  useKeys(
    {
      w: () => void go({ to: '/workroom/describe' }),
      b: () => void go({ to: '/workroom/beside' }),
      c: () => void go({ to: '/workroom/correct', search: {} }),
      a: () => setOpen('album'),
      t: () => setOpen('tag'),
      g: () => setOpen('category'),
      p: () => setOpen('clear'),
      u: () => setOpen('audience'),
      s: () => setOpen('copies'),
      Delete: () => throwThem.mutate(undefined),
    },
    some,
  )
  const takeAll = () => void hand.found(query, 'take')
  const turn = () => void hand.found(query, 'turn')
  useKeys({ e: takeAll, r: turn })
  return (
    <div className="flex min-h-[38px] flex-wrap items-center gap-x-3.5 gap-y-1 border-y border-line py-1 text-small">
      {some ? (
        <>
          <span className="mr-1 font-display text-[1.0625rem] font-semibold text-plum" data-testid="in-hand">
            {w.hand.inHand(count)}
          </span>
          <Link to="/workroom/describe" className={asWord}>
            {w.describing.verb}
            <KeyHint>W</KeyHint>
          </Link>
          <Link to="/workroom/correct" search={{}} className={asWord}>
            {w.correct.verb}
            <KeyHint>C</KeyHint>
          </Link>
          {count > 1 && count < 5 && (
            <Link to="/workroom/beside" className={asWord}>
              {w.beside.verb}
              <KeyHint>B</KeyHint>
            </Link>
          )}
          <PutInAlbum {...verb('album')} />
          <TagThem {...verb('tag')} />
          <CategoriseThem {...verb('category')} />
          <ClearThem {...verb('clear')} />
          <AudienceOfThem {...verb('audience')} />
          <SaveCopies {...verb('copies')} />
          {children}
          <Button look="word" hint="Del" onClick={() => throwThem.mutate(undefined)}>
            {w.bin.throwIn}
          </Button>
          <span className="ml-auto flex gap-3.5">
            {count < total && (
              <Button look="word" hint="E" onClick={takeAll}>
                {w.hand.all(total)}
              </Button>
            )}
            <Button look="word" hint="R" onClick={turn} title={w.hand.turnLong}>
              {w.hand.turn}
            </Button>
            <Button look="word" onClick={() => setSeeing(true)}>
              {w.hand.see}
            </Button>
            <Button look="word" hint="Esc" onClick={() => hand.clear()}>
              {w.hand.letGo}
            </Button>
          </span>
          <Dialog open={seeing} onClose={() => setSeeing(false)} title={w.hand.inHand(count)}>
            <InHand />
          </Dialog>
        </>
      ) : (
        <>
          <span className="text-small text-quiet">
            {rest}{' '}
            {total > 0 && (
              <Button look="word" hint="E" onClick={takeAll}>
                {w.hand.takeAll(total)}
              </Button>
            )}
          </span>
          {total > 0 && (
            <span className="ml-auto text-small text-quiet tabular-nums">
              <Undecided query={query} />
            </span>
          )}
        </>
      )}
    </div>
  )
}

/** What is in hand, in its order, each to be moved earlier or later or let go. */
function InHand() {
  const { ids, count, whole } = useHand()
  const shown = ids.slice(0, 200)
  const photos = useQuery({
    queryKey: ['these', shown],
    queryFn: async () =>
      (await body(api.POST('/api/photos/these', { body: { photos: [...shown] } }), w.errors.away)).photos,
    placeholderData: (before) => before,
  })
  function shift(id: string, by: number) {
    const at = ids.indexOf(id)
    const next = [...ids]
    next.splice(at, 1)
    next.splice(Math.max(0, at + by), 0, id)
    hand.set(next)
  }
  return (
    <ol className="mt-5 grid gap-2">
      {count > shown.length && (
        <li className="text-small text-quiet">{w.hand.firstOf(shown.length, count)}</li>
      )}
      {photos.data?.map((p, i) => (
        <li key={p.id} className="flex items-center gap-3 border-b border-line pb-2">
          <span className="w-8 text-small font-semibold text-plum tabular-nums">{i + 1}</span>
          <span className="grid h-12 w-16 place-items-center">
            {p.state === 'ready' && (
              <img src={rendition(p.picture, 480)} alt="" className="max-h-12 max-w-16" />
            )}
          </span>
          <span className="min-w-0 flex-1 truncate">{p.title || p.fileName}</span>
          <Button
            look="word"
            className="text-small"
            disabled={i === 0 || !whole}
            onClick={() => shift(p.id, -1)}
          >
            {w.hand.earlier}
          </Button>
          <Button
            look="word"
            className="text-small"
            disabled={i === ids.length - 1 || !whole}
            onClick={() => shift(p.id, 1)}
          >
            {w.hand.later}
          </Button>
          <Button
            look="word"
            className="text-small"
            onClick={() => hand.letGo([p.id])}
            aria-label={`${w.hand.remove}: ${p.title || p.fileName}`}
          >
            {w.hand.letGo}
          </Button>
        </li>
      ))}
    </ol>
  )
}
