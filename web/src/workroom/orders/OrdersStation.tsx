import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query'
import { Link, useNavigate, useSearch } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { asPlain, asWord } from '../../kit/Button'
import { SearchField } from '../../kit/SearchField'
import { WordTabs } from '../../kit/WordTabs'
import { w } from '../../words'
import { ListAndOne } from '../shell/ListAndOne'
import { Empty, Heading } from '../shell/Station'
import { readOrders, type Which } from './data'
import { OneOrder } from './OneOrder'
import { OrderRow } from './OrderRow'

/** Whose orders bookkeeping asks for: this year's, and in the first half of it last year's, too. */
function years() {
  const now = new Date()
  const year = now.getUTCFullYear()
  return now.getUTCMonth() < 6 ? [year - 1, year] : [year]
}

/** What bookkeeping takes along of a year. */
function OfYear({ year, hasInvoices }: { year: number; hasInvoices: boolean }) {
  const files = [
    ['/api/orders/table.csv', w.orders.tables.orders],
    ...(hasInvoices
      ? [
          ['/api/invoices/table.csv', w.orders.tables.invoices],
          ['/api/invoices/papers.zip', w.orders.paper],
        ]
      : []),
  ]
  return (
    <span className="flex gap-3">
      <span className="text-quiet">{w.orders.yearAs(year)}</span>
      {files.map(([path, says]) => (
        <a key={path} href={`${path}?year=${year}`} download className={asWord}>
          {says}
        </a>
      ))}
    </span>
  )
}

/** What visitors ordered: orders down the left, the eldest of those to do first, and one of them. */
export function OrdersStation() {
  const { which = 'open', q = '', order } = useSearch({ from: '/workroom/orders' })
  const [first, setFirst] = useState<{ of: string; id: string }>()
  const of = `${which} ${q}`
  const go = useNavigate({ from: '/workroom/orders' })
  const list = useInfiniteQuery({
    queryKey: ['orders', 'list', which, q],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) => readOrders(which, q.trim(), pageParam),
    getNextPageParam: (page) => (page.further ? page.orders.at(-1)?.id : undefined),
    placeholderData: keepPreviousData,
  })
  const orders = list.data?.pages.flatMap((p) => p.orders) ?? []
  // What opened by itself stays open when it leaves the list: whoever sends it sees that it is sent.
  const opened = order ?? (first?.of === of ? first.id : list.isPlaceholderData ? undefined : orders[0]?.id)
  useEffect(() => {
    if (opened) setFirst({ of, id: opened })
  }, [of, opened])
  const counts = list.data?.pages[0]
  if (!counts) return list.error ? <p className="p-10">{list.error.message}</p> : null
  const show = (next: Which, id?: string, words = q) =>
    void go({
      search: { which: next === 'open' ? undefined : next, q: words || undefined, order: id },
      replace: !!id || words !== q,
    })
  const tabs = [
    ['open', w.orders.tabs.open(counts.open)],
    ['unpaid', w.orders.tabs.unpaid(counts.unpaid)],
    ['all', w.orders.tabs.all],
  ] as const
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.orders.title}
        lead={w.orders.lead}
        right={
          counts.toPrint > 0 && (
            <span className="flex items-baseline gap-3">
              <a href="/api/orders/pick-list.pdf" target="_blank" rel="noreferrer" className={asPlain}>
                {w.orders.pickList}
              </a>
              <a href="/api/orders/prints.zip" download className={asPlain}>
                {w.orders.printsOf(counts.toPrint)}
              </a>
            </span>
          )
        }
      />
      <div className="mt-5 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-2 text-small">
        <span className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
          <WordTabs label={w.orders.which} tabs={tabs} chosen={which} onChoose={(next) => show(next)} />
          {/* Whoever looks for somebody looks among all. */}
          <SearchField
            label={w.orders.search}
            value={q}
            onType={(words) => show(words && !q ? 'all' : which, undefined, words)}
          />
        </span>
        <span className="flex flex-wrap gap-x-6">
          {years().map((year) => (
            <OfYear key={year} year={year} hasInvoices={counts.hasInvoices} />
          ))}
        </span>
      </div>
      {orders.length === 0 && !opened ? (
        <Empty
          title={
            q
              ? w.orders.notFound(q)
              : which === 'open'
                ? w.orders.nothingLeft
                : which === 'unpaid'
                  ? w.orders.nothingUnpaid
                  : w.orders.none
          }
          lead={q ? w.orders.notFoundLead : which === 'all' ? w.orders.noneLead : ''}
        >
          {which === 'all' && !q && (
            <Link to="/workroom/shop" className={asPlain}>
              {w.orders.toShop}
            </Link>
          )}
        </Empty>
      ) : (
        <ListAndOne
          label={w.orders.list}
          of={list}
          more={w.orders.more}
          rows={orders.map((each) => (
            <OrderRow
              key={each.id}
              order={each}
              isOpen={each.id === opened}
              onOpen={() => show(which, each.id)}
            />
          ))}
        >
          {opened && <OneOrder key={opened} id={opened} />}
        </ListAndOne>
      )}
    </div>
  )
}
