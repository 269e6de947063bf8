import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { WordTabs } from '../../kit/WordTabs'
import { w } from '../../words'
import { useAct, useFigures, useSession } from '../shell/data'
import { tellDone } from '../shell/news'
import { Empty, Heading } from '../shell/Station'
import { PersonFile } from './PersonFile'
import { PersonRow, usePersonSays } from './PersonRow'

const groups = ['all', 'no', 'yes', 'nothing'] as const
type Group = (typeof groups)[number]

/** Whether photos may be shown to visitors at all: for the whole site, and person by person. */
export function ClearanceStation() {
  const held = useFigures().data?.held ?? 0
  const setting = useQuery({
    queryKey: ['clearance', 'setting'],
    queryFn: () => body(api.GET('/api/clearance'), w.errors.away),
  }).data
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.clearance.title} lead={w.clearance.lead} />
      {setting && <Setting needed={setting.needed} />}
      <p className="mt-1">
        {w.clearance.held(held)}{' '}
        {held > 0 && (
          <Link
            to="/workroom/photos"
            search={{ clearance: setting?.needed ? 'not_cleared,none' : 'not_cleared' }}
            className="underline decoration-strong-line decoration-1 underline-offset-4"
          >
            {w.clearance.see}
          </Link>
        )}
      </p>
      <div className="mt-8 grid grid-cols-[minmax(0,1fr)_18rem] gap-x-12 gap-y-10 max-lg:grid-cols-1">
        <PersonsList />
        <PersonFile />
      </div>
    </div>
  )
}

function Setting({ needed }: { needed: boolean }) {
  const isOwner = useSession().data?.role === 'owner'
  const need = useAct(
    (next: boolean) => body(api.PUT('/api/clearance', { body: { needed: next } }), w.errors.away),
    (done, next) => tellDone(w.clearance.neededNow[next ? 'yes' : 'no'], done),
    'clearance',
  )
  const now = needed ? 'yes' : 'no'
  return (
    <p className="mt-5 font-display text-lead leading-[1.8] font-semibold">
      {w.clearance.visitorsSee}{' '}
      {isOwner ? (
        <WordSelect
          label={w.clearance.needed.label}
          value={now}
          choices={[
            ['no', w.clearance.needed.no],
            ['yes', w.clearance.needed.yes],
          ]}
          onChoose={(next) => need.mutate(next === 'yes')}
          className="leading-tight"
        />
      ) : (
        w.clearance.needed[now]
      )}
      .
      {!isOwner && (
        <span className="font-sans text-small font-normal text-quiet"> {w.clearance.forOwner}</span>
      )}
    </p>
  )
}

function PersonsList() {
  const [group, setGroup] = useState<Group>('all')
  const [typed, setTyped] = useState('')
  const words = typed.trim()
  const list = useInfiniteQuery({
    queryKey: ['clearance', 'persons', group, words],
    initialPageParam: 0,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/clearance/persons', {
          params: {
            query: { at: pageParam, ...(group !== 'all' && { says: group }), ...(words && { q: words }) },
          },
        }),
        w.errors.away,
      ),
    getNextPageParam: (last, pages) => {
      const known = pages.reduce((n, p) => n + p.persons.length, 0)
      return known < last.found && last.persons.length > 0 ? known : undefined
    },
    placeholderData: keepPreviousData,
  })
  const first = list.data?.pages[0]
  if (!first) return list.error ? <p>{list.error.message}</p> : <div />
  const persons = list.data?.pages.flatMap((p) => p.persons) ?? []
  const counts = { all: first.all, no: first.no, yes: first.yes, nothing: first.nothing }
  return (
    <section aria-label={w.clearance.persons} className="min-w-0">
      <h2 className="text-lead">{w.clearance.persons}</h2>
      <p className="mt-2 max-w-[42rem] text-small text-quiet">{w.clearance.personsLead}</p>
      <div className="mt-4 mb-3 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-2">
        <WordTabs
          label={w.clearance.which}
          tabs={groups.map((each) => [each, w.clearance.groups[each](counts[each])] as const)}
          chosen={group}
          onChoose={setGroup}
        />
        <input
          type="search"
          aria-label={w.clearance.find}
          placeholder={w.clearance.find}
          maxLength={120}
          className="w-52 border-b-2 border-strong-line bg-transparent py-0.5 outline-none focus:border-plum"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </div>
      {persons.length === 0 && words !== '' && <NotFound name={words} onPut={() => setTyped('')} />}
      {persons.length === 0 && words === '' && (
        <Empty title={w.clearance.none[group]} lead={group === 'all' ? w.clearance.noneLead : undefined} />
      )}
      <ul>
        {persons.map((person) => (
          <PersonRow key={`${person.name} ${person.version}`} person={person} />
        ))}
      </ul>
      {list.hasNextPage && (
        <Button className="mt-6" onClick={() => void list.fetchNextPage()}>
          {w.clearance.further(first.found - persons.length)}
        </Button>
      )}
    </section>
  )
}

/** Nobody of that name is known: they are put on the list. */
function NotFound({ name, onPut }: { name: string; onPut: () => void }) {
  const person = {
    name,
    says: '',
    until: null,
    by: '',
    version: 0,
    photos: 0,
    picture: null,
    width: 0,
    height: 0,
  }
  const put = usePersonSays(person, onPut)
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 border-t border-line py-4">
      {w.clearance.notFound(name)}
      <Button look="word" onClick={() => put.mutate({ says: '', until: '', by: '' })}>
        {w.clearance.putOn(name)}
      </Button>
    </p>
  )
}
