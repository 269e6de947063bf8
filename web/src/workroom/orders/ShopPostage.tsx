import { PriceWord } from '../../kit/PriceWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import type { Shop, useShop } from './useShop'

const isFree = (['no', 'yes'] as const).map((one) => [one, w.shop.isFree[one]] as const)

/** What sending costs: at home, by express, for nothing, abroad; and where orders are collected. */
export function ShopPostage({ work }: { work: ReturnType<typeof useShop> }) {
  const { shop, faults, changePostage } = work
  const { postage } = shop
  const amount = (field: 'atHome' | 'express' | 'freeFrom' | 'abroadCosts', hint: string) => (
    <PriceWord
      label={w.shop.amounts[field]}
      value={postage[field]}
      hint={hint}
      invalid={!!faults[field]}
      onSay={(value) => changePostage({ [field]: value } as Partial<Shop['postage']>)}
    />
  )
  const free = postage.freeFrom.trim() !== ''
  return (
    <>
      <p className="leading-[1.9]">
        {w.shop.atHome} {amount('atHome', w.shop.none)}
        {w.shop.express} {amount('express', w.shop.none)}
        {w.shop.free}{' '}
        <WordSelect
          label={w.shop.freeKind}
          value={postage.freeIsOver ? 'over' : 'from'}
          choices={(['from', 'over'] as const).map((one) => [one, w.shop.freeKinds[one]] as const)}
          onChoose={(one) => changePostage({ freeIsOver: one === 'over' })}
        />{' '}
        {amount('freeFrom', w.shop.never)} {w.shop.freeFrom}
        {free && postage.express.trim() !== '' && (
          <>
            {w.shop.byExpress}{' '}
            <WordSelect
              label={w.shop.byExpressLabel}
              value={postage.freeByExpress ? 'yes' : 'no'}
              choices={isFree}
              onChoose={(one) => changePostage({ freeByExpress: one === 'yes' })}
            />
          </>
        )}
        {free && postage.abroad !== 'no' && (
          <>
            {w.shop.abroadFree}{' '}
            <WordSelect
              label={w.shop.abroadFreeLabel}
              value={postage.freeAbroad ? 'yes' : 'no'}
              choices={isFree}
              onChoose={(one) => changePostage({ freeAbroad: one === 'yes' })}
            />
          </>
        )}
        . {w.shop.abroad}{' '}
        <WordSelect
          label={w.shop.abroadLabel}
          value={postage.abroad}
          choices={(['no', 'flat', 'perItem'] as const).map((one) => [one, w.shop.abroadKinds[one]] as const)}
          onChoose={(abroad) => changePostage({ abroad })}
        />
        {postage.abroad !== 'no' && <> {amount('abroadCosts', '0.00')}</>}.
      </p>
      <label className="mt-4 block">
        <span className="block text-small text-quiet">{w.shop.collected}</span>
        <input
          value={postage.collected}
          maxLength={300}
          placeholder={w.shop.collectedHint}
          onChange={(e) => changePostage({ collected: e.target.value })}
          className="w-full border-b border-strong-line bg-transparent py-1 outline-none placeholder:text-quiet focus:border-plum"
        />
      </label>
    </>
  )
}
