import type { ReactNode } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { ChooserPopover } from '../../kit/ChooserPopover'
import { w } from '../../words'

type Countries = readonly Api['CountryNamed'][]

/** What some countries are called, one after the other; empty for none. */
export const namesOf = (codes: readonly string[], countries: Countries) =>
  codes.map((code) => countries.find((c) => c.code === code)?.name ?? code).join(', ')

/** Countries that have something of their own: which they are, what it is, and a word that treats them like all others. */
export function OwnCountries({
  lead,
  named,
  onRemove,
  children,
  ...chosen
}: Parameters<typeof CountryWords>[0] & {
  lead: string
  /** What they are called together. */
  named: string
  onRemove: () => void
  children: ReactNode
}) {
  return (
    <p className="border-l-[3px] border-line pl-3">
      {lead} <CountryWords {...chosen} /> {children}{' '}
      <Button
        look="word"
        className="text-small"
        aria-label={w.shop.removeZoneLabel(named)}
        onClick={onRemove}
      >
        {w.shop.removeZone}
      </Button>
    </p>
  )
}

/** Some countries, each a word that takes it out, and one that adds another. */
function CountryWords({
  value,
  countries,
  taken,
  onSay,
}: {
  value: readonly string[]
  countries: Countries
  /** Those that stand somewhere already. */
  taken: ReadonlySet<string>
  onSay: (codes: string[]) => void
}) {
  return (
    <>
      {value.map((code) => (
        <Button
          key={code}
          aria-label={w.shop.leaveCountry(namesOf([code], countries))}
          look="word"
          className="mr-2.5 font-semibold"
          onClick={() => onSay(value.filter((c) => c !== code))}
        >
          {namesOf([code], countries)}
          <span aria-hidden className="ml-1 font-normal text-quiet">
            ×
          </span>
        </Button>
      ))}
      <ChooserPopover
        label={w.shop.choosingCountry}
        trigger={<Button look="word">{w.shop.addCountry}</Button>}
        choices={countries.filter((c) => !taken.has(c.code)).map((c) => ({ key: c.code, name: c.name }))}
        onChoose={(c) => onSay([...value, c.key])}
      />
    </>
  )
}
