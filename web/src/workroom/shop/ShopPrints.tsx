import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import type { useShop } from './useShop'

/** What labs ask for; 254 are ten a millimetre. */
const PER_INCH = [200, 254, 300, 360, 400]

const BLEEDS = [0, 1, 2, 3, 4, 5]

/** What can be chosen, with what is set even where it was set elsewhere. */
const choices = (usual: number[], set: number, says: (n: number) => string) =>
  [...new Set([...usual, set])].sort((a, b) => a - b).map((n) => [String(n), says(n)] as const)

/** How print files are made. */
export function ShopPrints({ work }: { work: ReturnType<typeof useShop> }) {
  const { shop, change } = work
  if (!shop.prints) return null
  const { pixelsPerInch, bleed } = shop.prints
  return (
    <>
      <p className="leading-[1.9]">
        {w.shop.printsHave}{' '}
        <WordSelect
          label={w.shop.perInchLabel}
          value={String(pixelsPerInch)}
          choices={choices(PER_INCH, pixelsPerInch, w.shop.perInch)}
          onChoose={(n) => change({ prints: { pixelsPerInch: Number(n), bleed } })}
        />{' '}
        {w.shop.bleedAnd}{' '}
        <WordSelect
          label={w.shop.bleedLabel}
          value={String(bleed)}
          choices={choices(BLEEDS, bleed, w.shop.bleeds)}
          onChoose={(n) => change({ prints: { pixelsPerInch, bleed: Number(n) } })}
        />
        .
      </p>
      <p className="mt-1 text-small text-quiet">{w.shop.printsLead}</p>
    </>
  )
}
