import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { PriceWord } from '../../kit/PriceWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { namesOf, OwnCountries } from './CountryWords'
import type { useShop } from './useShop'

type Place = Api['TaxPlaceSaid']
const kinds = (['home', 'none', 'rate'] as const).map((one) => [one, w.shop.elsewhereKinds[one]] as const)
const mostPlaces = 100

/** How buyers are taxed who are not at home: first where countries have rates of their own, then everywhere else. */
export function ShopTaxPlaces({
  work,
  countries,
}: {
  work: ReturnType<typeof useShop>
  countries: readonly Api['CountryNamed'][]
}) {
  const { shop, faults, changeTax } = work
  const { tax } = shop
  const places = tax.places ?? []
  const put = (next: Place[]) => changeTax({ places: next.length > 0 ? next : null })
  const taken = new Set([shop.postage.home, ...places.flatMap((p) => p.countries)])
  const atHome = { percent: tax.percent, reduced: tax.reduced ?? '' }
  const elsewhere = tax.elsewhere
  return (
    <>
      {places.map((place, i) => {
        const say = (next: Partial<Place>) => put(places.map((p, n) => (n === i ? { ...p, ...next } : p)))
        const named = namesOf(place.countries, countries) || w.shop.newPlace(i + 1)
        return (
          <OwnCountries
            // biome-ignore lint/suspicious/noArrayIndexKey: a place has nothing of its own that stays.
            key={i}
            lead={w.shop.taxOf}
            named={named}
            value={place.countries}
            countries={countries}
            taken={taken}
            onSay={(chosen) => say({ countries: chosen })}
            onRemove={() => put(places.filter((_, n) => n !== i))}
          >
            {w.shop.atRate} <Rates label={named} value={place} invalid={!!faults[`places${i}`]} onSay={say} />
          </OwnCountries>
        )
      })}
      <p>
        {places.length > 0 ? w.shop.taxElsewhere.some : w.shop.taxElsewhere.none}{' '}
        <WordSelect
          label={w.shop.elsewhereLabel}
          value={!elsewhere ? 'home' : elsewhere.percent === '0' && !elsewhere.reduced ? 'none' : 'rate'}
          choices={kinds}
          onChoose={(kind) =>
            changeTax({
              elsewhere: kind === 'home' ? null : kind === 'none' ? { percent: '0', reduced: '' } : atHome,
            })
          }
        />
        {elsewhere && !(elsewhere.percent === '0' && !elsewhere.reduced) ? (
          <>
            {' '}
            <Rates
              label={w.shop.elsewhereName}
              value={elsewhere}
              invalid={!!faults.elsewhere}
              onSay={(next) => changeTax({ elsewhere: { ...elsewhere, ...next } })}
            />
          </>
        ) : (
          '.'
        )}{' '}
        {places.length < mostPlaces && (
          <Button
            look="word"
            className="text-small"
            onClick={() => put([...places, { countries: [], ...atHome }])}
          >
            {w.shop.addPlace}
          </Button>
        )}
      </p>
    </>
  )
}

/** How many per cent there, and the end of the sentence. */
function Rates({
  label,
  value,
  invalid,
  onSay,
}: {
  label: string
  value: Api['TaxRatesSaid']
  invalid: boolean
  onSay: (next: Partial<Api['TaxRatesSaid']>) => void
}) {
  return (
    <>
      <PriceWord
        label={w.shop.placePercent(label)}
        value={value.percent}
        hint="0"
        invalid={invalid}
        onSay={(percent) => onSay({ percent })}
      />{' '}
      {w.shop.percent}
      {w.shop.reducedThere}{' '}
      <PriceWord
        label={w.shop.placeReduced(label)}
        value={value.reduced ?? ''}
        hint={w.shop.asMuch}
        invalid={invalid}
        onSay={(reduced) => onSay({ reduced })}
      />
      {value.reduced ? ` ${w.shop.percent}.` : '.'}
    </>
  )
}
