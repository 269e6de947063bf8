import { w } from '../../../../words'
import { LineField, Says, Toggle } from '../Parts'
import type { Bar } from './bar'

const fields = ['title', 'caption', 'tags', 'place', 'people', 'fileName'] as const
const orders = ['newest', 'oldest', 'title', 'highestRated'] as const

/** What visitors' words are looked for in. */
export const usualFields: Bar['search']['fields'] = ['title', 'caption', 'tags', 'place']

/** A list with one more or one less, in the order of all that there are. */
function turned<T>(all: readonly T[], some: readonly T[], one: T, on: boolean): T[] {
  return all.filter((each) => (each === one ? on : some.includes(each)))
}

/** How visitors search photos and put them in another order, read as two sentences. */
export function FindingSentence({ bar, onSay }: { bar: Bar; onSay: (bar: Bar) => void }) {
  const { search } = bar
  return (
    <>
      <Says>
        <span>{search.fields.length > 0 ? w.bar.search.lead : w.bar.search.none}</span>
        {fields.map((field) => (
          <Toggle
            key={field}
            on={search.fields.includes(field)}
            words={w.bar.search.fields[field]}
            onSay={(on) =>
              onSay({ ...bar, search: { ...search, fields: turned(fields, search.fields, field, on) } })
            }
          />
        ))}
        {search.fields.length > 0 && (
          <>
            <span>{w.bar.search.says}</span>
            <span className="min-w-40 flex-1">
              <LineField
                line={search.hint}
                label={w.bar.search.usual}
                onSay={(hint) => onSay({ ...bar, search: { ...search, hint: hint.slice(0, 60) } })}
              />
            </span>
          </>
        )}
      </Says>
      <Says>
        <span>{w.bar.orders.lead}</span>
        {orders.map((order) => (
          <Toggle
            key={order}
            on={bar.orders.includes(order)}
            words={w.bar.orders[order]}
            onSay={(on) => onSay({ ...bar, orders: turned(orders, bar.orders, order, on) })}
          />
        ))}
      </Says>
    </>
  )
}
