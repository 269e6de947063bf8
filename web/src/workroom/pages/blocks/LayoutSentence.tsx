import type { ReactNode } from 'react'
import type { Api } from '../../../api/client'
import { NumberWord } from '../../../kit/NumberWord'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { useSession } from '../../shell/data'
import { type BlockOf, usualGap } from './blocks'
import { Says } from './Parts'
import { PhotoPicker } from './PhotoPicker'
import { RatioWords } from './RatioWords'

export type Layout = Api['BlockLayout']
export type Measures = Api['Measures']
/** The layouts that have measures. */
type Measured = Exclude<Layout['kind'], 'slides'>
const kinds = ['rows', 'columns', 'grid', 'mosaic', 'list', 'strip', 'slides'] as const

/** Which way the size of a photo is said. */
export const wayOf = {
  rows: 'high',
  columns: 'wide',
  grid: 'wide',
  mosaic: 'high',
  list: 'wide',
  strip: 'high',
} as const satisfies Record<Measured, 'high' | 'wide'>

/** Whether the size of its photos is said; else the window says it. */
export const hasSize = ({ kind, along }: Layout) =>
  kind !== 'slides' && (kind !== 'strip' || along.height === 'pixels' || along.height === 'tallest')

/** In which layout the photos of a block stand, how large and how far apart. */
export function LayoutSentence({
  block,
  beside,
  onSay,
}: {
  block: BlockOf<'photos'>
  beside: number
  onSay: (layout: Layout) => void
}) {
  const { layout } = block
  const which = (
    <>
      <span>{layout.kind === 'slides' ? w.layout.as : w.layout.in}</span>
      <WordSelect
        label={w.layout.label}
        value={layout.kind}
        choices={kinds.map((k) => [k, w.layout.kinds[k]] as const)}
        onChoose={(kind) => onSay({ ...layout, kind })}
      />
    </>
  )
  if (layout.kind === 'slides')
    return (
      <Says>
        {which}
        <SlidesWords slides={layout.slides} onSay={(slides) => onSay({ ...layout, slides })} />
      </Says>
    )
  const { kind } = layout
  const measures = layout[kind]
  const say = (next: Partial<Measures>) => onSay({ ...layout, [kind]: { ...measures, ...next } })
  const gap = <Gap gap={measures.gap} onSay={(gap) => say({ gap })} />
  return (
    <>
      <Says>
        {which}
        {kind === 'strip' ? (
          <StripWords layout={layout} onSay={onSay} />
        ) : kind === 'columns' || kind === 'grid' ? (
          <SizeOrNumber measures={measures} onSay={say} />
        ) : (
          <>
            <span>{kind === 'list' ? w.layout.pictures : w.layout.about}</span>
            <Size size={measures.size} way={wayOf[kind]} onSay={(size) => say({ size })} />
          </>
        )}
        {gap}
      </Says>
      {kind === 'mosaic' && <LargeSentence block={block} beside={beside} onSay={onSay} />}
    </>
  )
}

/** A size, and what it is of. */
export function Size({
  size,
  way,
  label = w.layout.sizeLabel,
  after = ',',
  onSay,
}: {
  size: number
  way: 'high' | 'wide'
  label?: string
  after?: string
  onSay: (size: number) => void
}) {
  const bounds = useSession().data?.bounds
  return (
    <>
      <NumberWord
        label={label}
        value={size}
        least={bounds?.smallestSize ?? 80}
        most={bounds?.largestSize ?? 800}
        onSay={onSay}
      />
      <span>
        {w.layout.size[way]}
        {after}
      </span>
    </>
  )
}

/** How far apart photos stand: as the look has it, until something else is said. */
function Gap({ gap, onSay }: { gap: number | null; onSay: (gap: number | null) => void }) {
  const most = useSession().data?.bounds.largestGap ?? 80
  return (
    <>
      <WordSelect
        label={w.layout.gapHow}
        value={gap === null ? 'look' : 'said'}
        choices={(['look', 'said'] as const).map((how) => [how, w.layout.gaps[how]] as const)}
        onChoose={(how) => onSay(how === 'look' ? null : (gap ?? usualGap))}
      />
      {gap !== null && (
        <NumberWord label={w.layout.gapLabel} value={gap} least={0} most={most} onSay={onSay} />
      )}
    </>
  )
}

/** How large photos are: said by a size, or by how many stand side by side. */
function SizeOrNumber({ measures, onSay }: { measures: Measures; onSay: (next: Partial<Measures>) => void }) {
  const { size, across } = measures
  return (
    <>
      <WordSelect
        label={w.layout.by}
        value={across ? 'across' : 'size'}
        choices={(['size', 'across'] as const).map((by) => [by, w.layout.bys[by]] as const)}
        onChoose={(by) => onSay({ across: by === 'across' ? { desktop: 4, tablet: 3, phone: 2 } : null })}
      />
      {across ? (
        <Across
          label={w.layout.acrossLabel}
          number={across.desktop}
          after=","
          onSay={(desktop) => onSay({ across: { ...across, desktop } })}
        />
      ) : (
        <Size size={size} way="wide" onSay={(now) => onSay({ size: now })} />
      )}
    </>
  )
}

/** How many stand side by side. */
export function Across({
  label,
  number,
  after = '',
  onSay,
}: {
  label: string
  number: number
  after?: string
  onSay: (number: number) => void
}) {
  const most = useSession().data?.bounds.mostAcross ?? 12
  return (
    <>
      <NumberWord label={label} value={number} least={1} most={most} onSay={onSay} />
      <span>
        {w.layout.across}
        {after}
      </span>
    </>
  )
}

const heights = ['pixels', 'tallest', 'third', 'half', 'whole'] as const

function StripWords({ layout, onSay }: { layout: Layout; onSay: (layout: Layout) => void }) {
  const { along, strip } = layout
  return (
    <>
      <WordSelect
        label={w.layout.stripHeight}
        value={along.height}
        choices={heights.map((h) => [h, w.layout.stripHeights[h]] as const)}
        onChoose={(height) => onSay({ ...layout, along: { ...along, height } })}
      />
      {hasSize(layout) && (
        <Size
          size={strip.size}
          way={along.height === 'tallest' ? 'wide' : 'high'}
          onSay={(size) => onSay({ ...layout, strip: { ...strip, size } })}
        />
      )}
    </>
  )
}

const turns = ['fade', 'slide', 'zoom'] as const

function SlidesWords({
  slides,
  onSay,
}: {
  slides: Layout['slides']
  onSay: (slides: Layout['slides']) => void
}): ReactNode {
  return (
    <>
      <WordSelect
        label={w.layout.turn}
        value={slides.turn}
        choices={turns.map((t) => [t, w.layout.turns[t]] as const)}
        onChoose={(turn) => onSay({ ...slides, turn })}
      />
      <span>{w.layout.frame}</span>
      <RatioWords
        label={w.layout.frameLabel}
        ratio={slides.shape}
        none={w.layout.frameTallest}
        onSay={(shape) => onSay({ ...slides, shape })}
      />
      {slides.shape && (
        <WordSelect
          label={w.layout.fit}
          value={slides.fills ? 'fills' : 'whole'}
          choices={(['whole', 'fills'] as const).map((f) => [f, w.layout.fills[f]] as const)}
          onChoose={(fit) => onSay({ ...slides, fills: fit === 'fills' })}
        />
      )}
    </>
  )
}

const larges = ['rating', 'chosen', 'turn'] as const

function LargeSentence({
  block,
  beside,
  onSay,
}: {
  block: BlockOf<'photos'>
  beside: number
  onSay: (layout: Layout) => void
}) {
  const { layout } = block
  const { large } = layout
  return (
    <Says>
      <span>{w.layout.large}</span>
      <WordSelect
        label={w.layout.largeLabel}
        value={large.by}
        choices={larges.map((by) => [by, w.layout.larges[by]] as const)}
        onChoose={(by) => onSay({ ...layout, large: { ...large, by } })}
      />
      {large.by === 'chosen' && (
        <>
          <span>{w.source.picked(large.photos.length)}</span>
          <PhotoPicker
            chosen={large.photos}
            block={block}
            beside={beside}
            onSay={(photos) => onSay({ ...layout, large: { ...large, photos } })}
          />
        </>
      )}
    </Says>
  )
}
