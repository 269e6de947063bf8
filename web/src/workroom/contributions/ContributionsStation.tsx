import { useInfiniteQuery } from '@tanstack/react-query'
import { useNavigate, useSearch } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { WordTabs } from '../../kit/WordTabs'
import { w } from '../../words'
import { ListAndOne } from '../shell/ListAndOne'
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
    <ListAndOne
      label={w.contributions.which}
      of={list}
      more={w.contributions.more}
      rows={all.map((each) => (
        <ContributionRow
          key={each.id}
          contribution={each}
          isOpen={each.id === open}
          onOpen={() => openOne(each.id)}
        />
      ))}
    >
      {open && (
        <OneContribution
          key={open}
          id={open}
          next={all.find((c) => c.waiting > 0 && c.id !== open)}
          onOpen={openOne}
        />
      )}
    </ListAndOne>
  )
}
