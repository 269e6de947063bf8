import type { ComponentProps } from 'react'
import type { Api } from '../../api/client'
import { NumberWord } from '../../kit/NumberWord'
import { PriceWord } from '../../kit/PriceWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { AddHeavier, HeavierSteps } from './PostageRate'
import { ShopZones } from './ShopZones'
import type { Shop, useShop } from './useShop'

const isFree = (['no', 'yes'] as const).map((one) => [one, w.shop.isFree[one]] as const)

/** What sending costs: at home, by express, for nothing, abroad; by weight where that is wanted; and where orders are collected. */
export function ShopPostage({ work, seen }: { work: ReturnType<typeof useShop>; seen: Api['ShopSeen'] }) {
  const { shop, faults, changePostage } = work
  const { postage } = shop
  const amount = (field: 'atHome' | 'express' | 'freeFrom', hint: string) => (
    <PriceWord
      label={w.shop.amounts[field]}
      value={postage[field]}
      hint={hint}
      invalid={!!faults[field]}
      onSay={(value) => changePostage({ [field]: value } as Partial<Shop['postage']>)}
    />
  )
  const hasExpress = postage.express.trim() !== ''
  const byWeight = [
    postage.homeHeavier,
    postage.expressHeavier,
    postage.abroadHeavier,
    ...(postage.zones ?? []).map((z) => z.heavier),
  ].some((steps) => steps && steps.length > 0)
  return (
    <>
      <div className="grid gap-1.5 leading-[1.9]">
        <p>
          {w.shop.atHome} {amount('atHome', w.shop.none)}
          {postage.atHome.trim() !== '' ? (
            <Heavier
              label={w.shop.amounts.atHome}
              steps={postage.homeHeavier}
              invalid={!!faults.atHome}
              onSay={(homeHeavier) => changePostage({ homeHeavier })}
            />
          ) : (
            '.'
          )}
        </p>
        <p>
          {w.shop.express} {amount('express', w.shop.none)}
          {hasExpress ? (
            <Heavier
              label={w.shop.amounts.express}
              steps={postage.expressHeavier}
              invalid={!!faults.express}
              onSay={(expressHeavier) => changePostage({ expressHeavier })}
            />
          ) : (
            '.'
          )}
        </p>
        <p>
          {w.shop.free}{' '}
          <WordSelect
            label={w.shop.freeKind}
            value={postage.freeIsOver ? 'over' : 'from'}
            choices={(['from', 'over'] as const).map((one) => [one, w.shop.freeKinds[one]] as const)}
            onChoose={(one) => changePostage({ freeIsOver: one === 'over' })}
          />{' '}
          {amount('freeFrom', w.shop.never)} {w.shop.freeFrom}
          {postage.freeFrom.trim() !== '' && hasExpress && (
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
          .
        </p>
        <ShopZones work={work} countries={seen.countries} />
        {byWeight && (
          <p>
            {w.shop.packing}{' '}
            <NumberWord
              label={w.shop.packingLabel}
              value={postage.packing ?? 0}
              least={0}
              most={20_000}
              onSay={(packing) => changePostage({ packing })}
            />{' '}
            {w.shop.grams}. {seen.unweighed > 0 && <b>{w.shop.unweighed(seen.unweighed)}</b>}
          </p>
        )}
      </div>
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

/** What heavier parcels cost, and the end of the sentence. */
function Heavier(props: ComponentProps<typeof HeavierSteps>) {
  return (
    <>
      <HeavierSteps {...props} />.
      <AddHeavier {...props} />
    </>
  )
}
