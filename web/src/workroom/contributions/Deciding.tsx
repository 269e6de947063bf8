import { type ReactNode, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { useKeys } from '../shell/keys'
import { tell } from '../shell/news'
import type { Contributed } from './data'

/** Accepts and refuses: what is chosen, or all that waits. */
export function Deciding({
  shown,
  picked,
  onDone,
  next,
}: {
  shown: Api['ContributionShown']
  picked: readonly Contributed[]
  onDone: () => void
  /** Leads to another contribution. */
  next: ReactNode
}) {
  const { contribution: c, photos } = shown
  const [refusing, setRefusing] = useState(false)
  const path = { params: { path: { contribution: c.id } } }
  const some = picked.length > 0
  const acceptable = some ? picked.filter((p) => p.canAccept) : photos.filter((p) => p.state === 'waiting')
  const refusable = (some ? picked : photos).filter((p) => p.state === 'waiting')
  const ids = (of: readonly Contributed[]) => of.map((p) => p.id)
  const accept = useAct(
    () =>
      body(
        api.POST('/api/contributions/{contribution}/accept', {
          ...path,
          body: { photos: ids(acceptable) },
        }),
        w.errors.away,
      ),
    ({ count }) => {
      onDone()
      tell({ text: w.contributions.accepted(count, c.name) })
    },
  )
  const refuse = useAct(
    (why: string) =>
      body(
        api.POST('/api/contributions/{contribution}/refuse', {
          ...path,
          body: { photos: ids(refusable), why },
        }),
        w.errors.away,
      ),
    ({ count }) => {
      setRefusing(false)
      onDone()
      tell({ text: w.contributions.refused(count, c.name) })
    },
  )
  const trust = useAct(
    (member: string) =>
      body(
        api.PUT('/api/members/{member}/contributing', {
          params: { path: { member } },
          body: { contributing: 'trusted' },
        }),
        w.errors.away,
      ),
    () => tell({ text: w.contributions.trustedNow(c.name) }),
  )
  useKeys(
    {
      a: () => acceptable.length > 0 && accept.mutate(undefined),
      r: () => refusable.length > 0 && setRefusing(true),
    },
    !refusing,
  )
  if (refusing && refusable.length > 0)
    return (
      <form
        className="mt-5 grid max-w-[34rem] gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          refuse.mutate(String(new FormData(e.currentTarget).get('why')))
        }}
        onKeyDown={(e) => {
          if (e.key === 'Escape') setRefusing(false)
        }}
      >
        <label className="grid gap-1">
          <span className="text-small text-quiet">{w.contributions.why}</span>
          <textarea
            name="why"
            rows={2}
            maxLength={2000}
            // biome-ignore lint/a11y/noAutofocus: it stands in the place of the verb that was pressed
            autoFocus
            placeholder={w.contributions.whyHint}
            className="w-full resize-y border-b border-strong-line bg-transparent pb-1 outline-none focus:border-plum"
          />
        </label>
        <span className="flex items-baseline gap-5">
          <Button type="submit" look="next" disabled={refuse.isPending}>
            {some ? w.contributions.refuse(refusable.length) : w.contributions.refuseAll(refusable.length)}
          </Button>
          <Button look="word" onClick={() => setRefusing(false)}>
            {w.contributions.notNow}
          </Button>
        </span>
      </form>
    )
  return (
    <div className="mt-5 flex min-h-9 flex-wrap items-baseline gap-x-5 gap-y-2">
      {acceptable.length > 0 && (
        <Button look="next" hint="A" disabled={accept.isPending} onClick={() => accept.mutate(undefined)}>
          {some ? w.contributions.accept(acceptable.length) : w.contributions.acceptAll(acceptable.length)}
        </Button>
      )}
      {refusable.length > 0 && (
        <Button hint="R" onClick={() => setRefusing(true)}>
          {some ? w.contributions.refuse(refusable.length) : w.contributions.refuseAll(refusable.length)}
        </Button>
      )}
      {some && (
        <Button look="word" onClick={onDone}>
          {w.contributions.letGo}
        </Button>
      )}
      {c.member && !c.link && !c.isTrusted && (
        <Button look="word" disabled={trust.isPending} onClick={() => c.member && trust.mutate(c.member)}>
          {w.contributions.trusted(c.name)}
        </Button>
      )}
      {next}
    </div>
  )
}
