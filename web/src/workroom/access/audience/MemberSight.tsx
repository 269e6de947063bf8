import { Link } from '@tanstack/react-router'
import { Dialog } from '../../../kit/Dialog'
import { w } from '../../../words'
import { ShowMore } from '../../shell/ShowMore'
import { SeeAs } from './SeeAs'
import { SightLine } from './SightLine'
import { useMemberSight } from './viewers'

const roads = {
  page: (id: string) => ({ to: '/workroom/pages/$page' as const, params: { page: id } }),
  album: (id: string) => ({ to: '/workroom/albums/$album' as const, params: { album: id } }),
}

/** What a member can see of all that is not for everyone. */
export function MemberSight({
  member,
  name,
  onClose,
}: {
  member: string
  name: string
  onClose: () => void
}) {
  const list = useMemberSight(member)
  const first = list.data?.pages[0]
  const things = list.data?.pages.flatMap((p) => p.things) ?? []
  return (
    <Dialog open onClose={onClose} title={w.viewers.whatSees(name)} wide>
      {list.error && (
        <p role="alert" className="mt-3">
          {list.error.message}
        </p>
      )}
      {first && (
        <>
          <ul className="mt-4">
            <SightLine name={w.viewers.open} said={w.viewers.everything} sees />
            {things.map((thing) => {
              const sees = thing.why.length === 0
              const road = thing.kind === 'category' ? null : roads[thing.kind](thing.id)
              return (
                <SightLine
                  key={thing.id}
                  name={w.viewers.thing[thing.kind](thing.name)}
                  road={
                    road && (
                      <Link
                        {...road}
                        className="underline decoration-strong-line decoration-1 underline-offset-4"
                      >
                        {w.viewers.thing[thing.kind](thing.name)}
                      </Link>
                    )
                  }
                  sees={sees}
                  said={
                    !sees
                      ? w.viewers.nothing
                      : thing.photos === null
                        ? w.viewers.yes
                        : w.viewers.photos(thing.seen ?? 0, thing.photos)
                  }
                  why={thing.why}
                />
              )
            })}
          </ul>
          {things.length === 0 && (
            <p className="border-t border-line py-2.5 text-quiet">{w.viewers.nothingGuarded}</p>
          )}
          <ShowMore of={list}>{w.viewers.more(Math.min(50, first.all - things.length))}</ShowMore>
          <p className="mt-5 border-t border-strong-line pt-4">
            <SeeAs as={`person-${member}`} who={name}>
              {w.viewers.seeAsOf(name)}
            </SeeAs>
          </p>
        </>
      )}
    </Dialog>
  )
}
