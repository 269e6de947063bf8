import { useInfiniteQuery } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { asPlain } from '../../kit/Button'
import { WordTabs } from '../../kit/WordTabs'
import { w } from '../../words'
import { ShowMore } from '../shell/ShowMore'
import { Empty, Heading } from '../shell/Station'
import { Kept } from './Kept'
import { RecordRow } from './RecordRow'

const tabs = ['all', 'opened', 'saved', 'refused'] as const

/** What visitors did whom the site knows, the latest first. */
export function RecordsStation() {
  const { member, entry, what } = useSearch({ from: '/workroom/records' })
  const go = useNavigate({ from: '/workroom/records' })
  const list = useInfiniteQuery({
    queryKey: ['records', member, entry, what],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/records', {
          params: {
            query: {
              ...(what && { what }),
              ...(member && { member }),
              ...(entry && { entry }),
              ...(pageParam && { behind: pageParam }),
            },
          },
        }),
        w.errors.away,
      ),
    getNextPageParam: (page) => (page.further ? page.records.at(-1)?.id : undefined),
  })
  const first = list.data?.pages[0]
  if (!first) return list.error ? <p className="p-10">{list.error.message}</p> : null
  const records = list.data?.pages.flatMap((p) => p.records) ?? []
  const { opened, saved, refused, counted, who, kept, offered } = first
  const counts = { all: opened + saved + refused, opened, saved, refused }
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.records.title}
        lead={who ? w.records.of(who) : w.records.lead}
        right={
          member || entry ? (
            <Link to="/workroom/records" className={asPlain}>
              {w.records.everybody}
            </Link>
          ) : (
            <Kept days={kept} offered={offered} />
          )
        }
      />
      {counts.all === 0 ? (
        <Empty
          title={kept === 0 ? w.records.noneOff : w.records.none}
          lead={kept === 0 ? undefined : w.records.noneLead}
        />
      ) : (
        <>
          <WordTabs
            label={w.records.which}
            tabs={tabs.map((tab) => [tab, w.records.tabs[tab](counts[tab], counted)] as const)}
            chosen={what ?? 'all'}
            onChoose={(tab) =>
              void go({ search: { member, entry, what: tab === 'all' ? undefined : tab }, replace: true })
            }
            className="mt-5"
          />
          <ul className="mt-3 max-w-[62rem]">
            {records.map((record) => (
              <RecordRow key={record.id} record={record} isTheirs={who !== ''} />
            ))}
          </ul>
          <ShowMore of={list}>{w.records.more}</ShowMore>
        </>
      )}
    </div>
  )
}
