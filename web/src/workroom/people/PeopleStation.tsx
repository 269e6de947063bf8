import { useQuery } from '@tanstack/react-query'
import { api, body } from '../../api/client'
import { w } from '../../words'
import { Heading } from '../shell/Station'
import { InvitationRow } from './InvitationRow'
import { Invite } from './Invite'
import { StaffRow } from './StaffRow'

/** Who works on the site: those who do, those who are asked to, and asking somebody. */
export function PeopleStation() {
  const staff = useQuery({
    queryKey: ['people'],
    queryFn: () => body(api.GET('/api/people'), w.errors.away),
    // While a letter is on its way one looks at it go.
    refetchInterval: (query) =>
      query.state.data?.invitations.some((i) => i.letter === 'waiting') ? 2_000 : false,
  })
  if (!staff.data)
    return staff.error ? <p className="px-[30px] pt-7 font-semibold">{staff.error.message}</p> : null
  const { people, invitations, hasMail } = staff.data
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.people.title} lead={w.people.lead} />
      <div className="mt-7 grid grid-cols-[minmax(0,1fr)_18rem] gap-x-14 gap-y-10 max-lg:grid-cols-1">
        <div className="grid min-w-0 content-start gap-10">
          <section aria-label={w.people.staff}>
            <h2 className="mb-2 text-lead">{w.people.staff}</h2>
            <ul>
              {people.map((person) => (
                <StaffRow key={person.id} person={person} />
              ))}
            </ul>
          </section>
          {invitations.length > 0 && (
            <section aria-label={w.people.invited}>
              <h2 className="mb-2 text-lead">{w.people.invited}</h2>
              <ul>
                {invitations.map((invitation) => (
                  <InvitationRow key={invitation.id} invitation={invitation} />
                ))}
              </ul>
            </section>
          )}
        </div>
        <Invite hasMail={hasMail} />
      </div>
    </div>
  )
}
