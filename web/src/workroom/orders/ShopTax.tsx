import { PriceWord } from '../../kit/PriceWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import type { useShop } from './useShop'

/** How tax goes with prices. */
export function ShopTax({ work }: { work: ReturnType<typeof useShop> }) {
  const { shop, faults, changeTax } = work
  const { tax } = shop
  return (
    <p className="leading-[1.9]">
      <WordSelect
        label={w.shop.taxLabel}
        value={tax.kind}
        choices={(['none', 'included', 'added'] as const).map((one) => [one, w.shop.taxKinds[one]] as const)}
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
          , {w.shop.taxRound}
        </>
      )}
    </p>
  )
}
