import { w } from '../../words'
import type { Sold } from './SoldStation'

const parts = ['goods', 'takenOff', 'postage', 'total', 'tax', 'returned'] as const

/** The months of a year down the page, each as long as what it came to. */
export function SoldMonths({ sold }: { sold: Sold }) {
  // What a year has none of has no column.
  const shown = parts.filter((part) => part === 'total' || Number(sold.whole[part]) > 0)
  return (
    <table className="mt-6 w-full max-w-[64rem] tabular-nums">
      <caption className="sr-only">{w.sold.months}</caption>
      <thead>
        <tr className="border-b border-line text-small text-quiet">
          <th scope="col" className="py-1.5 text-left font-normal">
            {w.sold.month}
          </th>
          <th scope="col" className="w-[30%] max-md:hidden">
            <span className="sr-only">{w.sold.share}</span>
          </th>
          <th scope="col" className="text-right font-normal">
            {w.sold.orders}
          </th>
          {shown.map((part) => (
            <th key={part} scope="col" className="pl-4 text-right font-normal">
              {w.sold.parts[part]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sold.months.map((month, i) => (
          <tr
            key={w.sold.monthNames[i]}
            className={`border-b border-line ${month.orders === 0 ? 'text-quiet' : ''}`}
          >
            <th scope="row" className="py-1.5 pr-4 text-left font-normal">
              {w.sold.monthNames[i]}
            </th>
            <td className="max-md:hidden">
              {month.share > 0 && (
                <span
                  aria-hidden
                  className="block h-2.5 min-w-px bg-plum"
                  style={{ width: `${month.share * 100}%` }}
                />
              )}
            </td>
            <td className="text-right">{month.orders || ''}</td>
            {shown.map((part) => (
              <td key={part} className={`pl-4 text-right ${part === 'total' ? 'font-semibold' : ''}`}>
                {month.orders > 0 && Number(month[part]) !== 0 ? month[part] : ''}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr className="font-semibold">
          <th scope="row" className="py-2 text-left">
            {w.sold.all}
          </th>
          <td className="max-md:hidden" />
          <td className="text-right">{sold.whole.orders}</td>
          {shown.map((part) => (
            <td key={part} className="pl-4 text-right">
              {sold.whole[part]}
            </td>
          ))}
        </tr>
      </tfoot>
    </table>
  )
}
