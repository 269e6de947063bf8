import { Button, Choice } from '../../kit/Button'
import { NumberWord } from '../../kit/NumberWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import type { Option } from './data'
import { OptionBreaks } from './OptionBreaks'
import { OptionFile } from './OptionFile'
import { numberOf, Paragraph, Word } from './OptionWords'

const shapes = ['landscape', 'portrait', 'square', 'panorama'] as const

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
              digits
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
      <OptionBreaks option={option} onSay={onSay} />
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
      {option.kind !== 'digital' && (
        <p className="flex flex-wrap items-baseline gap-x-1.5">
          <Word
            label={w.prices.editionLabel}
            value={`${option.edition ?? ''}`}
            hint={w.prices.editionHint}
            width="min-w-8"
            digits
            onSay={(n) => onSay({ edition: numberOf(n) })}
          >
            {w.prices.edition}
          </Word>
          <span>{w.prices.editionEnd}</span>
          <Word
            label={w.prices.weightLabel}
            value={`${option.weight ?? ''}`}
            hint={w.prices.weightHint}
            width="min-w-8"
            digits
            onSay={(n) => onSay({ weight: numberOf(n) })}
          >
            {w.prices.weight}
          </Word>
          <span>{w.prices.grams}</span>
        </p>
      )}
      <p>
        {w.prices.tax}{' '}
        <WordSelect
          label={w.prices.taxLabel}
          value={option.tax ?? 'standard'}
          choices={(['standard', 'reduced', 'none'] as const).map(
            (one) => [one, w.prices.taxClasses[one]] as const,
          )}
          onChoose={(tax) => onSay({ tax })}
        />
        .
      </p>
      {option.kind === 'digital' && <OptionFile option={option} onSay={onSay} />}
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
