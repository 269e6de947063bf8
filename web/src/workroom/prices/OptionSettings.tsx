import type { ReactNode } from 'react'
import { Button, Choice } from '../../kit/Button'
import { NumberWord } from '../../kit/NumberWord'
import { w } from '../../words'
import type { Option } from './data'
import { PriceField } from './PriceField'

const shapes = ['landscape', 'portrait', 'square', 'panorama'] as const

/** A number that may be left empty; what is none is left as it is. */
const numberOf = (typed: string) => (typed === '' ? null : Number.parseInt(typed, 10) || null)

/** All that is said of an option, in sentences. */
export function OptionSettings({
  option,
  stays,
  onSay,
  onRemove,
}: {
  option: Option
  stays: string
  onSay: (next: Partial<Option>) => void
  onRemove: () => void
}) {
  const printed = option.kind === 'print' || option.kind === 'wrap' || option.kind === 'card'
  return (
    <div className="mt-1 mb-5 ml-[1.625rem] grid gap-2 border-l-[3px] border-line pl-4 text-small leading-[1.9]">
      <p className="flex flex-wrap items-baseline gap-x-4">
        {printed && (
          <Word
            label={w.prices.size}
            value={option.size ?? ''}
            hint={w.prices.sizeHint}
            width="min-w-20"
            onSay={(size) => onSay({ size })}
          >
            {w.prices.size}
          </Word>
        )}
        {option.kind === 'wrap' && (
          <span className="whitespace-nowrap">
            <NumberWord
              label={w.prices.edgeLabel}
              value={option.edge ?? 0}
              least={0}
              most={100}
              onSay={(edge) => onSay({ edge })}
            />{' '}
            {w.prices.mm} {w.prices.edge}.
          </span>
        )}
        {option.kind === 'digital' && (
          <span className="whitespace-nowrap">
            <Word
              label={w.prices.longest}
              value={`${option.longestEdge ?? ''}`}
              hint={w.prices.longestHint}
              width="min-w-12"
              onSay={(n) => onSay({ longestEdge: numberOf(n) })}
            >
              {w.prices.longestLead}
            </Word>{' '}
            {w.prices.px}.
          </span>
        )}
        <Word
          label={w.prices.calledLabel}
          value={option.name ?? ''}
          hint={w.prices.calledHint}
          width="min-w-28"
          onSay={(name) => onSay({ name })}
        >
          {w.prices.calledLead}
        </Word>
        <Word
          label={w.prices.headingLabel}
          value={option.group ?? ''}
          hint={w.prices.headingHint}
          width="min-w-20"
          onSay={(group) => onSay({ group })}
        >
          {w.prices.heading}
        </Word>
      </p>
      <p className="flex flex-wrap items-baseline gap-x-1.5">
        <Word
          label={w.prices.costLabel}
          value={option.cost ?? ''}
          hint={w.prices.costHint}
          width="min-w-12"
          onSay={(cost) => onSay({ cost })}
        >
          {w.prices.cost}
        </Word>
        {stays && <span className="text-quiet">{stays}</span>}
      </p>
      <Breaks option={option} onSay={onSay} />
      <p className="flex flex-wrap items-baseline gap-x-3">
        <span>{w.prices.shapes}</span>
        <Choice on={(option.shapes ?? []).length === 0} onClick={() => onSay({ shapes: [] })}>
          {w.prices.everyShape}
        </Choice>
        {shapes.map((shape) => {
          const all = option.shapes ?? []
          return (
            <Choice
              key={shape}
              on={all.includes(shape)}
              onClick={() =>
                onSay({ shapes: all.includes(shape) ? all.filter((s) => s !== shape) : [...all, shape] })
              }
            >
              {w.prices.shapeNames[shape]}
            </Choice>
          )
        })}
      </p>
      {option.kind === 'digital' && (
        <>
          <p className="flex flex-wrap items-baseline gap-x-1.5">
            <Word
              label={w.prices.fetchedLabel}
              value={`${option.downloads ?? ''}`}
              hint={w.prices.fetchedHint}
              width="min-w-28"
              onSay={(n) => onSay({ downloads: numberOf(n) })}
            >
              {w.prices.fetched}
            </Word>
            <Word
              label={w.prices.daysLabel}
              value={`${option.days ?? ''}`}
              hint={w.prices.daysHint}
              width="min-w-10"
              onSay={(n) => onSay({ days: numberOf(n) })}
            >
              {w.prices.times}
            </Word>
            <span>{w.prices.days}</span>
          </p>
          <Paragraph
            label={w.prices.licence}
            value={option.licence ?? ''}
            most={4000}
            onSay={(licence) => onSay({ licence })}
          />
        </>
      )}
      <Paragraph
        label={w.prices.description}
        value={option.description ?? ''}
        most={400}
        onSay={(description) => onSay({ description })}
      />
      <p className="flex gap-5">
        <Button look="word" onClick={() => onSay({ isOff: !option.isOff })}>
          {option.isOff ? w.prices.offer : w.prices.leaveOff}
        </Button>
        <Button look="word" onClick={onRemove}>
          {w.prices.remove}
        </Button>
      </p>
    </div>
  )
}

/** What each of several costs, one sentence a number. */
function Breaks({ option, onSay }: { option: Option; onSay: (next: Partial<Option>) => void }) {
  const breaks = option.breaks ?? []
  const put = (i: number, next: Partial<(typeof breaks)[number]>) =>
    onSay({ breaks: breaks.map((b, n) => (n === i ? { ...b, ...next } : b)) })
  return (
    <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
      {breaks.map((step, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a step has nothing of its own that stays.
        <span key={i} className="whitespace-nowrap">
          {w.prices.breaks}{' '}
          <NumberWord
            label={w.prices.breakFrom}
            value={step.from}
            least={2}
            most={10000}
            onSay={(from) => put(i, { from })}
          />{' '}
          <Word
            label={w.prices.breakEach}
            value={step.each}
            hint={w.prices.priceHint}
            width="min-w-12"
            onSay={(each) => put(i, { each })}
          >
            {w.prices.each}
          </Word>{' '}
          <Button look="word" onClick={() => onSay({ breaks: breaks.filter((_, n) => n !== i) })}>
            {w.prices.removeBreak}
          </Button>
        </span>
      ))}
      {breaks.length < 6 && (
        <Button
          look="word"
          onClick={() =>
            onSay({
              breaks: [
                ...breaks,
                { from: (breaks.at(-1)?.from ?? 0) + 5, each: breaks.at(-1)?.each ?? option.price ?? '' },
              ],
            })
          }
        >
          {w.prices.addBreak}
        </Button>
      )}
    </p>
  )
}

/** A word of a sentence that is typed over. */
function Word({
  label,
  value,
  hint,
  width,
  onSay,
  children,
}: {
  label: string
  value: string
  hint: string
  width: string
  onSay: (value: string) => void
  children: ReactNode
}) {
  return (
    <span className="whitespace-nowrap">
      {children}{' '}
      <PriceField
        label={label}
        value={value}
        hint={hint}
        className={`${width} font-semibold [field-sizing:content]`}
        onSay={onSay}
      />
    </span>
  )
}

/** A few sentences, as buyers read them. */
function Paragraph({
  label,
  value,
  most,
  onSay,
}: {
  label: string
  value: string
  most: number
  onSay: (value: string) => void
}) {
  return (
    <label className="grid gap-0.5">
      <span className="text-quiet">{label}</span>
      <textarea
        key={value}
        defaultValue={value}
        rows={2}
        maxLength={most}
        className="w-full max-w-[36rem] resize-y border-b border-strong-line bg-transparent leading-normal outline-none [field-sizing:content] focus:border-plum"
        onBlur={(e) => {
          if (e.target.value.trim() !== value) onSay(e.target.value.trim())
        }}
      />
    </label>
  )
}
