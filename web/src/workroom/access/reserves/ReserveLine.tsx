import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { w } from '../../../words'
import { tellDone } from '../../shell/news'
import { useSaying } from '../../shell/useSaying'
import { WhomChoice } from '../WhomChoice'

const doings = ['save', 'saveFull', 'talk', 'choose'] as const

/** For whom an album or a category reserves what visitors do with its photos, as a sentence; pressed, each is said. */
export function ReserveLine({
  of,
  className = '',
}: {
  of: { kind: 'album' | 'category'; id: string }
  className?: string
}) {
  const [open, setOpen] = useState(false)
  const path = { kind: of.kind, thing: of.id }
  const shown = useQuery({
    queryKey: ['reserves', of.kind, of.id],
    queryFn: () => body(api.GET('/api/reserves/{kind}/{thing}', { params: { path } }), w.errors.away),
  }).data
  const say = useSaying(
    shown?.reserved,
    (next, was) =>
      body(
        api.PUT('/api/reserves/{kind}/{thing}', { params: { path }, body: { reserved: next, was } }),
        w.errors.away,
      ),
    (done) => tellDone(w.offers.said, done),
    'reserves',
  )
  if (!shown) return null
  const { reserved, called } = shown
  const said = doings.filter((doing) => reserved[doing].who !== 'everyone')
  const whom = ({ who, chosen }: Api['Whom']) =>
    who === 'chosen'
      ? called
          .filter((c) => chosen?.includes(c.id))
          .map((c) => c.name)
          .join(', ') || w.reserves.whom.chosen
      : w.reserves.whom[who]
  return (
    <section aria-label={w.reserves.label} className={`text-small ${className}`}>
      <p className="flex flex-wrap items-baseline gap-x-2 gap-y-1">
        <span>
          {said.length === 0
            ? w.reserves.nothing
            : w.reserves.said(
                said.map((doing) => w.reserves.for(w.reserves.doings[doing], whom(reserved[doing]))),
              )}
        </span>
        <Button look="word" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? w.reserves.done : said.length === 0 ? w.reserves.reserve : w.reserves.change}
        </Button>
      </p>
      {shown.above.map((sentence) => (
        <p key={sentence} className="text-quiet">
          {sentence}
        </p>
      ))}
      {open && (
        <ul className="mt-2 grid max-w-3xl gap-1.5 border-t border-line pt-2">
          {doings.map((doing) => (
            <li key={doing} className="flex flex-wrap items-baseline gap-x-1.5">
              <span className="min-w-48">{w.reserves.lines[doing]}</span>
              <WhomChoice
                whom={reserved[doing]}
                called={called}
                label={w.reserves.lines[doing]}
                words={w.reserves.choices}
                onSay={(change) => say((was) => ({ ...was, [doing]: change(was[doing]) }))}
              />
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
