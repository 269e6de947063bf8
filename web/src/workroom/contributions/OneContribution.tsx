import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { moment } from '../shell/format'
import { useKeys } from '../shell/keys'
import { ContributedCell } from './ContributedCell'
import { Deciding } from './Deciding'
import { Larger } from './Larger'

/** What one visitor sent in: who it was and what they say, what can be done with it, and the photos in their order. */
export function OneContribution({
  id,
  next,
  onOpen,
}: {
  id: string
  /** Another of which photos wait. */
  next: Api['ContributionLine'] | undefined
  onOpen: (contribution: string) => void
}) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [larger, setLarger] = useState<string | null>(null)
  const { data: shown, error } = useQuery({
    queryKey: ['contributions', 'one', id],
    queryFn: () =>
      body(
        api.GET('/api/contributions/{contribution}', { params: { path: { contribution: id } } }),
        w.errors.away,
      ),
    // What was accepted comes in within moments.
    refetchInterval: (query) => (query.state.data?.photos.some((p) => p.isComing) ? 1200 : false),
  })
  useKeys({ Escape: () => setChosen(new Set()) }, chosen.size > 0)
  if (!shown) return error ? <p>{error.message}</p> : null
  const { contribution: c, photos, words, email, agreed } = shown
  const picked = photos.filter((p) => chosen.has(p.id))
  function turn(photo: string) {
    setChosen((now) => {
      const next = new Set(now)
      if (!next.delete(photo)) next.add(photo)
      return next
    })
  }
  return (
    <section aria-label={w.contributions.open(c.name, moment(c.sent))} className="min-w-0">
      <h2 className="text-head">{c.name}</h2>
      <p className="mt-1 text-quiet">
        {c.link ? w.contributions.cameBy(c.link) : w.contributions.cameAsMember}, {moment(c.sent)}.{' '}
        {c.albumName &&
          (c.isNewAlbum
            ? w.contributions.intoNew(c.albumName, c.categoryName)
            : w.contributions.into(c.albumName))}{' '}
        {email ? w.contributions.told(email) : w.contributions.untold}
        {agreed && ` ${w.contributions.agreed(agreed)}`}
      </p>
      {words && (
        <blockquote className="mt-4 max-w-[42rem] border-l-3 border-plum pl-4 whitespace-pre-line">
          {words}
        </blockquote>
      )}
      <Deciding
        shown={shown}
        picked={picked}
        onDone={() => {
          setChosen(new Set())
          // It stays open: the same key again shall not decide on somebody else's.
          onOpen(id)
        }}
        next={
          next && (
            <Button look={c.waiting > 0 ? 'word' : 'next'} onClick={() => onOpen(next.id)}>
              {w.contributions.nextOne(next.name)}
            </Button>
          )
        }
      />
      <ul className="mt-6 grid grid-cols-[repeat(auto-fill,minmax(14rem,1fr))] gap-x-5 gap-y-7">
        {photos.map((photo) => (
          <ContributedCell
            key={photo.id}
            photo={photo}
            contribution={c.id}
            on={chosen.has(photo.id)}
            onTurn={photo.canAccept ? () => turn(photo.id) : null}
            onLarger={() => setLarger(photo.id)}
          />
        ))}
      </ul>
      <Larger photos={photos} shown={larger} onShow={setLarger} />
    </section>
  )
}
