import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useNavigate, useSearch } from '@tanstack/react-router'
import { type Api, api, body } from '../../api/client'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { Empty, Heading } from '../shell/Station'
import { SoldMonths } from './SoldMonths'
import { SoldThings } from './SoldThings'

export type Sold = Api['SoldSeen']

/** What was sold in a year: by month, by what was bought, and by photo. */
export function SoldStation() {
  const { year, currency } = useSearch({ from: '/workroom/sold' })
  const go = useNavigate()
  const sold = useQuery({
    queryKey: ['sold', year, currency],
    queryFn: () =>
      body(
        api.GET('/api/sold', { params: { query: { ...(year && { year }), ...(currency && { currency }) } } }),
        w.errors.away,
      ),
    placeholderData: keepPreviousData,
  })
  if (sold.error && !sold.data) return <p className="p-10">{sold.error.message}</p>
  if (!sold.data) return null
  const { data } = sold
  const look = (next: { year?: number; currency?: string }) =>
    void go({ to: '/workroom/sold', search: { year, currency, ...next } })
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.sold.title} lead={w.sold.lead} />
      <p className="mt-5 leading-[1.9]">
        {w.sold.within}{' '}
        <WordSelect
          label={w.sold.year}
          value={String(data.year)}
          choices={[...new Set([...data.years, data.year])].map((one) => [String(one), String(one)] as const)}
          onChoose={(one) => look({ year: Number(one) })}
        />
        {data.currencies.length > 1 && (
          <>
            {' '}
            {w.sold.for}{' '}
            <WordSelect
              label={w.sold.currency}
              value={data.currency}
              choices={data.currencies.map((one) => [one, one] as const)}
              onChoose={(one) => look({ currency: one })}
            />
          </>
        )}
        {': '}
        {w.sold.whole(data.whole.orders, data.whole.pieces, `${data.currency} ${data.whole.total}`)}
      </p>
      {data.whole.orders === 0 ? (
        <Empty title={w.sold.none} lead={w.sold.noneLead} />
      ) : (
        <>
          <SoldMonths sold={data} />
          <div className="mt-10 grid grid-cols-2 gap-x-14 gap-y-10 max-lg:grid-cols-1">
            <SoldThings title={w.sold.options} things={data.options} />
            <SoldThings title={w.sold.photos} things={data.photos} pictures />
          </div>
          <p className="mt-6 max-w-[44rem] text-small text-quiet">{w.sold.rule}</p>
        </>
      )}
    </div>
  )
}
