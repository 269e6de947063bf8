import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { PriceWord } from '../../kit/PriceWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { namesOf, OwnCountries } from './CountryWords'
import { AddHeavier, HeavierSteps } from './PostageRate'
import type { useShop } from './useShop'

type Zone = Api['PostageZoneSaid']
const kinds = (['no', 'flat', 'perItem'] as const).map((one) => [one, w.shop.abroadKinds[one]] as const)
const isFree = (['no', 'yes'] as const).map((one) => [one, w.shop.zoneFree[one]] as const)
const mostZones = 20

/** What sending abroad costs: first the countries that have a rate of their own, then all others. */
export function ShopZones({
  work,
  countries,
}: {
  work: ReturnType<typeof useShop>
  countries: readonly Api['CountryNamed'][]
}) {
  const { shop, faults, changePostage } = work
  const { postage } = shop
  const zones = postage.zones ?? []
  const put = (zones: Zone[]) => changePostage({ zones: zones.length > 0 ? zones : null })
  const canBeFree = postage.freeFrom.trim() !== ''
  const taken = new Set([postage.home, ...zones.flatMap((z) => z.countries)])
  return (
    <>
      {zones.map((zone, i) => {
        const say = (next: Partial<Zone>) => put(zones.map((z, n) => (n === i ? { ...z, ...next } : z)))
        const named = namesOf(zone.countries, countries) || w.shop.newZone(i + 1)
        return (
          <OwnCountries
            // biome-ignore lint/suspicious/noArrayIndexKey: a zone has nothing of its own that stays.
            key={i}
            lead={w.shop.to}
            named={named}
            value={zone.countries}
            countries={countries}
            taken={taken}
            onSay={(chosen) => say({ countries: chosen })}
            onRemove={() => put(zones.filter((_, n) => n !== i))}
          >
            <Rate
              label={named}
              value={zone}
              invalid={!!faults[`zones${i}`]}
              onSay={say}
              canBeFree={canBeFree}
            />
          </OwnCountries>
        )
      })}
      <p>
        {zones.length > 0 ? w.shop.elsewhere : w.shop.abroad}{' '}
        <Rate
          label={w.shop.abroadLabel}
          value={{
            kind: postage.abroad,
            costs: postage.abroadCosts,
            isFree: postage.freeAbroad,
            heavier: postage.abroadHeavier ?? null,
          }}
          invalid={!!faults.abroadCosts}
          canBeFree={canBeFree}
          onSay={({ kind, costs, isFree, heavier }) =>
            changePostage({
              ...(kind !== undefined && { abroad: kind }),
              ...(costs !== undefined && { abroadCosts: costs }),
              ...(isFree !== undefined && { freeAbroad: isFree }),
              ...(heavier !== undefined && { abroadHeavier: heavier }),
            })
          }
        />{' '}
        {zones.length < mostZones && (
          <Button
            look="word"
            className="text-small"
            onClick={() => put([...zones, { countries: [], kind: 'no', costs: '', isFree: false }])}
          >
            {w.shop.addZone}
          </Button>
        )}
      </p>
    </>
  )
}

/** What sending to some countries costs. */
function Rate({
  label,
  value,
  invalid,
  canBeFree,
  onSay,
}: {
  label: string
  value: Pick<Zone, 'kind' | 'costs' | 'isFree' | 'heavier'>
  invalid: boolean
  canBeFree: boolean
  onSay: (next: Partial<Pick<Zone, 'kind' | 'costs' | 'isFree' | 'heavier'>>) => void
}) {
  return (
    <>
      <WordSelect
        label={w.shop.kindLabel(label)}
        value={value.kind}
        choices={kinds}
        onChoose={(kind) => onSay({ kind })}
      />
      {value.kind !== 'no' && (
        <>
          {' '}
          <PriceWord
            label={w.shop.costsLabel(label)}
            value={value.costs}
            hint="0.00"
            invalid={invalid}
            onSay={(costs) => onSay({ costs })}
          />
        </>
      )}
      {value.kind === 'flat' && (
        <HeavierSteps
          label={label}
          steps={value.heavier}
          invalid={invalid}
          onSay={(heavier) => onSay({ heavier })}
        />
      )}
      {value.kind !== 'no' && canBeFree && (
        <>
          {', '}
          <WordSelect
            label={w.shop.isFreeLabel(label)}
            value={value.isFree ? 'yes' : 'no'}
            choices={isFree}
            onChoose={(one) => onSay({ isFree: one === 'yes' })}
          />
        </>
      )}
      .
      {value.kind === 'flat' && (
        <AddHeavier label={label} steps={value.heavier} onSay={(heavier) => onSay({ heavier })} />
      )}
    </>
  )
}
