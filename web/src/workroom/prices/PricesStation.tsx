import { Link, useNavigate } from '@tanstack/react-router'
import { api, body } from '../../api/client'
import { w } from '../../words'
import { usePriceLists } from '../shell/data'
import { LineForm } from '../shell/LineForm'
import { Empty, Heading } from '../shell/Station'
import { CoverPicture } from './CoverPicture'
import { useRefresh } from './data'

/** All price lists: what each sells, and in how many albums. */
export function PricesStation() {
  const lists = usePriceLists()
  if (lists.error && !lists.data) return <p className="p-10">{lists.error.message}</p>
  if (!lists.data) return null
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.prices.title} lead={w.prices.lead} />
      {lists.data.lists.length === 0 ? (
        <Empty title={w.prices.none} lead={w.prices.noneLead} />
      ) : (
        <ul className="mt-6 max-w-[48rem] border-b border-line">
          {lists.data.lists.map((list) => (
            <li key={list.id} className="border-t border-line">
              <Link
                to="/workroom/prices/$list"
                params={{ list: list.id }}
                className="group grid grid-cols-[4.5rem_minmax(0,1fr)_auto] items-center gap-x-5 py-3"
              >
                <CoverPicture of={list} className="h-12 w-[4.5rem]" />
                <span className="min-w-0">
                  <span className="block truncate font-display text-lead font-semibold group-hover:underline group-hover:decoration-strong-line group-hover:underline-offset-4">
                    {list.name}
                  </span>
                  <span className="block text-small text-quiet">{w.prices.galleries(list.galleries)}</span>
                </span>
                <span className="text-right text-small tabular-nums">
                  {w.prices.options(list.offered, list.options)}
                  <span className="block text-quiet">
                    {w.prices.span(list.least, list.most, list.currency)}
                  </span>
                </span>
              </Link>
            </li>
          ))}
        </ul>
      )}
      <Begin currencies={lists.data.currencies} used={lists.data.lists[0]?.currency ?? 'EUR'} />
    </div>
  )
}

/** Begins a list: its name, and the currency of its prices. */
function Begin({ currencies, used }: { currencies: readonly string[]; used: string }) {
  const go = useNavigate()
  const refresh = useRefresh()
  return (
    <section aria-label={w.prices.begin} className="mt-8 max-w-[28rem]">
      <LineForm
        verb={w.prices.begin}
        look="next"
        send={async (text) => {
          const { seen } = await body(
            api.POST('/api/prices', { body: { name: text('name').trim(), currency: text('currency') } }),
            w.errors.away,
          )
          refresh()
          void go({ to: '/workroom/prices/$list', params: { list: seen.id } })
        }}
      >
        {(faults) => (
          <span className="grid grid-cols-[minmax(0,1fr)_6rem] items-end gap-x-5">
            <label className="block">
              <span className="block text-small text-quiet">{w.prices.name}</span>
              <input
                name="name"
                required
                maxLength={80}
                autoComplete="off"
                placeholder={w.prices.nameHint}
                className="w-full border-b border-strong-line bg-transparent py-1 outline-none focus:border-plum"
              />
            </label>
            <label className="block">
              <span className="block text-small text-quiet">{w.prices.currency}</span>
              <select
                name="currency"
                defaultValue={used}
                className="w-full cursor-pointer appearance-none rounded-none border-b border-strong-line bg-transparent py-1 font-semibold"
              >
                {currencies.map((code) => (
                  <option key={code} className="bg-raised">
                    {code}
                  </option>
                ))}
              </select>
            </label>
            {faults.name && <span className="col-span-2 text-small font-semibold">{faults.name}</span>}
          </span>
        )}
      </LineForm>
    </section>
  )
}
