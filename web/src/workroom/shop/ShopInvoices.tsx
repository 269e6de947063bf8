import { PriceWord } from '../../kit/PriceWord'
import { WordSelect } from '../../kit/WordSelect'
import { WrittenLines } from '../../kit/WrittenLines'
import { w } from '../../words'
import type { useShop } from './useShop'

/** Whether invoices are written, and what stands on them. */
export function ShopInvoices({ work, last }: { work: ReturnType<typeof useShop>; last: number }) {
  const { shop, faults, change } = work
  if (!shop.invoices) return null
  const rule = shop.invoices
  const say = (next: Partial<typeof rule>) => change({ invoices: { ...rule, ...next } })
  return (
    <>
      <p className="leading-[1.9]">
        {w.shop.invoicesOf}{' '}
        <WordSelect
          label={w.shop.invoicesLabel}
          value={rule.areWritten ? 'yes' : 'no'}
          choices={(['yes', 'no'] as const).map((one) => [one, w.shop.invoiceKinds[one]] as const)}
          onChoose={(one) => say({ areWritten: one === 'yes' })}
        />
        {rule.areWritten ? (
          <>
            {' '}
            {w.shop.invoicesWhen} {w.shop.invoicesNext}{' '}
            <PriceWord
              label={w.shop.invoicesPrefix}
              value={rule.prefix}
              hint={w.shop.invoicesPrefixHint}
              words
              onSay={(prefix) => say({ prefix })}
            />{' '}
            {last > 0 ? (
              <span className="font-semibold tabular-nums">{last + 1}</span>
            ) : (
              <PriceWord
                label={w.shop.invoicesFirst}
                value={String(rule.first)}
                hint="1"
                invalid={!!faults.invoices && rule.first < 1}
                // What is no number is said to be none.
                onSay={(first) => say({ first: /^\d{1,9}$/.test(first) ? Number(first) : 0 })}
              />
            )}
            .
          </>
        ) : (
          '.'
        )}
      </p>
      {faults.invoices && <p className="font-semibold">{faults.invoices}</p>}
      {rule.areWritten && (
        <>
          <p className="text-small text-quiet">
            {w.shop.invoicesGaps} {w.shop.invoicesLater}
          </p>
          <div className="mt-3 grid gap-3">
            <WrittenLines
              label={w.shop.seller}
              value={rule.seller}
              rows={4}
              most={400}
              hint={w.shop.sellerHint}
              onSay={(seller) => say({ seller })}
            />
            <WrittenLines
              label={w.shop.taxNumber}
              value={rule.taxNumber}
              rows={1}
              most={40}
              onSay={(taxNumber) => say({ taxNumber })}
            />
            <WrittenLines
              label={w.shop.foot}
              value={rule.foot}
              rows={3}
              most={600}
              onSay={(foot) => say({ foot })}
            />
          </div>
        </>
      )}
    </>
  )
}
