import { useInfiniteQuery } from '@tanstack/react-query'
import { useNavigate, useSearch } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { WordTabs } from '../../kit/WordTabs'
import { w } from '../../words'
import { ShowMore } from '../shell/ShowMore'
import { Empty, Heading } from '../shell/Station'
import { ContributionRow } from './ContributionRow'
import { Links } from './Links'
import { OneContribution } from './OneContribution'

/** What visitors sent in: who down the left, the photos of one of them, and the links that ask for some. */
export function ContributionsStation() {
  const { show } = useSearch({ from: '/workroom/contributions' })
  const go = useNavigate({ from: '/workroom/contributions' })
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.contributions.title}
        lead={show === 'links' ? w.contributionLinks.lead : w.contributions.lead}
      />
      <WordTabs
        label={w.contributions.tabsLabel}
        tabs={[
          ['waiting', w.contributions.tabs.waiting],
          ['all', w.contributions.tabs.all],
          ['links', w.contributions.tabs.links],
        ]}
        chosen={show ?? 'waiting'}
        onChoose={(key) => void go({ search: key === 'waiting' ? {} : { show: key } })}
        className="mt-6"
      />
      {show === 'links' ? <Links /> : <Sent key={show ?? 'waiting'} />}
    </div>
  )
}

function Sent() {
  const { show, one } = useSearch({ from: '/workroom/contributions' })
  const go = useNavigate({ from: '/workroom/contributions' })
  const list = useInfiniteQuery({
    queryKey: ['contributions', 'list', show],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/contributions', {
          params: { query: { waiting: show !== 'all', ...(pageParam && { behind: pageParam }) } },
        }),
        w.errors.away,
      ),
    getNextPageParam: (page) => (page.further ? page.contributions.at(-1)?.id : undefined),
  })
  if (!list.data) return list.error ? <p className="pt-6">{list.error.message}</p> : null
  const all = list.data.pages.flatMap((p) => p.contributions)
  const openOne = (id: string) => void go({ search: { ...(show && { show }), one: id }, replace: true })
  // What was opened stays open when the last of it was decided on.
  const open = one ?? all[0]?.id
  if (all.length === 0 && !one)
    return (
      <Empty
        title={show === 'all' ? w.contributions.noneAll : w.contributions.none}
        lead={w.contributions.noneLead}
      >
        <Button onClick={() => void go({ search: { show: 'links' } })}>{w.contributions.toLinks}</Button>
      </Empty>
    )
  return (
    <div className="mt-5 grid grid-cols-[19rem_minmax(0,1fr)] gap-x-12 gap-y-8 max-lg:grid-cols-1">
      <nav aria-label={w.contributions.which}>
        <ul className="border-t border-line">
          {all.map((each) => (
            <ContributionRow
              key={each.id}
              contribution={each}
              isOpen={each.id === open}
              onOpen={() => openOne(each.id)}
            />
          ))}
        </ul>
        <ShowMore of={list}>{w.contributions.more}</ShowMore>
      </nav>
      {open && (
        <OneContribution
          key={open}
          id={open}
          next={all.find((c) => c.waiting > 0 && c.id !== open)}
          onOpen={openOne}
        />
      )}
    </div>
  )
}
