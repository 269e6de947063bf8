import type { Api } from '../../api/client'
import { PriceWord } from '../../kit/PriceWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { ShopTaxPlaces } from './ShopTaxPlaces'
import type { useShop } from './useShop'

/** How tax goes with prices: at home, and where buyers are elsewhere. */
export function ShopTax({ work, seen }: { work: ReturnType<typeof useShop>; seen: Api['ShopSeen'] }) {
  const { shop, faults, changeTax } = work
  const { tax } = shop
  return (
    <div className="grid gap-1.5 leading-[1.9]">
      <p>
        <WordSelect
          label={w.shop.taxLabel}
          value={tax.kind}
          choices={(['none', 'included', 'added'] as const).map(
            (one) => [one, w.shop.taxKinds[one]] as const,
          )}
          onChoose={(kind) =>
            changeTax(
              kind === 'none' ? { kind } : { kind, percent: tax.percent || '20', name: tax.name || 'VAT' },
            )
          }
        />
        {tax.kind === 'none' ? (
          '.'
        ) : (
          <>
            {' '}
            <PriceWord
              label={w.shop.percentLabel}
              value={tax.percent}
              hint="20"
              invalid={!!faults.percent}
              onSay={(percent) => changeTax({ percent })}
            />{' '}
            {w.shop.percent}{' '}
            <PriceWord
              label={w.shop.taxName}
              value={tax.name}
              hint="VAT"
              words
              onSay={(name) => changeTax({ name })}
            />
            {w.shop.reducedLead}{' '}
            <PriceWord
              label={w.shop.reducedLabel}
              value={tax.reduced ?? ''}
              hint={w.shop.asMuch}
              invalid={!!faults.percent}
              onSay={(reduced) => changeTax({ reduced })}
            />
            {tax.reduced ? ` ${w.shop.percent}.` : '.'}{' '}
            {seen.reduced > 0 && <b>{w.shop.unreduced(seen.reduced)}</b>}
          </>
        )}
      </p>
      {tax.kind !== 'none' && (
        <>
          <ShopTaxPlaces work={work} countries={seen.countries} />
          <p>
            {w.shop.roundLead}{' '}
            <WordSelect
              label={w.shop.roundLabel}
              value={tax.isByLine ? 'line' : 'order'}
              choices={(['order', 'line'] as const).map((one) => [one, w.shop.roundKinds[one]] as const)}
              onChoose={(one) => changeTax({ isByLine: one === 'line' })}
            />
            .
          </p>
          <p className="text-small text-quiet">
            {w.shop.taxHow(tax.kind === 'included', !!tax.places?.length || !!tax.elsewhere)}
          </p>
        </>
      )}
    </div>
  )
}
