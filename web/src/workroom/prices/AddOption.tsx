import { type FormEvent, useRef, useState } from 'react'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { fresh, type Kind, type Option } from './data'

const kinds = ['print', 'wrap', 'card', 'digital', 'other'] as const

const field =
  'border-b border-strong-line bg-transparent py-0.5 font-semibold outline-none focus:border-plum placeholder:text-quiet placeholder:font-normal'

/** Adds an option by a sentence; Enter adds it, and the next is typed at once. */
export function AddOption({ first, onAdd }: { first: boolean; onAdd: (option: Option) => void }) {
  const [kind, setKind] = useState<Kind>('print')
  const of = useRef<HTMLInputElement>(null)
  const isFile = kind === 'digital'
  const isNamed = kind === 'other'
  function add(e: FormEvent<HTMLFormElement>) {
    e.preventDefault()
    const said = new FormData(e.currentTarget)
    const what = String(said.get('what')).trim()
    onAdd({
      ...fresh(kind),
      ...(isFile
        ? { longestEdge: what === '' ? null : Number(what) }
        : isNamed
          ? { name: what }
          : { size: what }),
      price: String(said.get('price')).trim(),
    })
    e.currentTarget.reset()
    of.current?.focus()
  }
  return (
    <form
      onSubmit={add}
      className={`flex flex-wrap items-baseline gap-x-2 gap-y-2 ${first ? '' : 'mt-4 border-t border-line pt-4'}`}
    >
      <span>{w.prices.add}</span>
      <WordSelect
        label={w.prices.addKind}
        value={kind}
        choices={kinds.map((one) => [one, w.prices.kinds[one]] as const)}
        onChoose={setKind}
      />
      <span>{isNamed ? w.prices.called : w.prices.sized}</span>
      <input
        ref={of}
        name="what"
        key={kind}
        aria-label={isFile ? w.prices.longest : isNamed ? w.prices.name : w.prices.size}
        required={!isFile}
        pattern={isFile ? '\\d{0,6}' : undefined}
        title={isFile ? w.prices.longest : undefined}
        inputMode={isFile ? 'numeric' : 'text'}
        maxLength={80}
        autoComplete="off"
        placeholder={isFile ? w.prices.pixelsHint : isNamed ? w.prices.nameOfHint : w.prices.sizeHint}
        className={`w-32 ${field}`}
      />
      <span>{isFile ? `${w.prices.px} ${w.prices.for}` : w.prices.for}</span>
      <input
        name="price"
        aria-label={w.prices.price(w.prices.kinds[kind])}
        inputMode="decimal"
        maxLength={20}
        autoComplete="off"
        placeholder={w.prices.priceHint}
        className={`w-20 text-right tabular-nums ${field}`}
      />
      <Button type="submit" look={first ? 'next' : 'plain'} className="ml-2">
        {w.prices.addVerb}
      </Button>
    </form>
  )
}
