import type { ReactNode } from 'react'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import type { Typing } from '../typing/typing'
import { BarFold } from './BarFold'
import type { Block, BlockOf } from './blocks'
import { FrameFold } from './FrameFold'
import { IndexSettings } from './IndexSettings'
import { DeviceFold, LayoutSentence } from './LayoutSentence'
import { LinkSentence } from './LinkSentence'
import { OnePhotoSettings } from './OnePhotoSettings'
import { Says } from './Parts'
import { SourceSentence } from './SourceSentence'
import { HeadingSettings, TextSettings } from './WordsSettings'

/** What is set of a block, read as sentences; what is asked for seldom is folded beneath them. */
export function BlockSettings({
  block,
  beside,
  typing,
  onSay,
}: {
  block: Block
  /** How many blocks stand side by side where it stands; 1 where it stands alone. */
  beside: number
  typing: Typing
  onSay: (block: Block) => void
}) {
  const frame = (
    <FrameFold frame={block.frame} beside={beside > 1} onSay={(next) => onSay({ ...block, frame: next })} />
  )
  switch (block.kind) {
    case 'heading':
      return (
        <Settings folds={frame}>
          <HeadingSettings block={block} onSay={onSay} />
        </Settings>
      )
    case 'text':
      return (
        <Settings folds={frame}>
          <TextSettings block={block} typing={typing} />
        </Settings>
      )
    case 'photos':
      return <PhotosSettings block={block} beside={beside} frame={frame} onSay={onSay} />
    case 'photo':
      return (
        <Settings folds={frame}>
          <OnePhotoSettings block={block} beside={beside} onSay={onSay} />
        </Settings>
      )
    case 'index':
      return (
        <Settings folds={frame}>
          <IndexSettings block={block} onSay={onSay} />
        </Settings>
      )
    case 'button':
      return (
        <Settings folds={frame}>
          <ButtonSettings block={block} onSay={onSay} />
        </Settings>
      )
    case 'divider':
      return (
        <Settings folds={frame}>
          <Says>
            <span>{w.divider.is}</span>
            <WordSelect
              label={w.divider.label}
              value={block.line ? 'line' : 'space'}
              choices={(['line', 'space'] as const).map((k) => [k, w.divider.kinds[k]] as const)}
              onChoose={(kind) => onSay({ ...block, line: kind === 'line' })}
            />
          </Says>
        </Settings>
      )
    case 'beside':
      return null
  }
}

function Settings({ folds, children }: { folds: ReactNode; children: ReactNode }) {
  return (
    <>
      {children}
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-0.5">{folds}</div>
    </>
  )
}

function PhotosSettings({
  block,
  beside,
  frame,
  onSay,
}: {
  block: BlockOf<'photos'>
  beside: number
  frame: ReactNode
  onSay: (block: Block) => void
}) {
  return (
    <Settings
      folds={
        <>
          <BarFold bar={block.bar} onSay={(bar) => onSay({ ...block, bar })} />
          <DeviceFold layout={block.layout} onSay={(layout) => onSay({ ...block, layout })} />
          {frame}
        </>
      }
    >
      <SourceSentence
        source={block.source}
        block={block}
        beside={beside}
        onSay={(next) => onSay({ ...block, source: { ...block.source, ...next } })}
      />
      <LayoutSentence layout={block.layout} onSay={(layout) => onSay({ ...block, layout })} />
    </Settings>
  )
}

function ButtonSettings({ block, onSay }: { block: BlockOf<'button'>; onSay: (block: Block) => void }) {
  return (
    <Says>
      <span>{w.button.says}</span>
      <input
        value={block.words}
        aria-label={w.button.label}
        placeholder={w.button.usual}
        maxLength={80}
        className="min-w-32 border-b border-strong-line bg-transparent font-semibold outline-none [field-sizing:content] focus:border-plum"
        onChange={(e) => onSay({ ...block, words: e.target.value })}
      />
      <span>{w.link.to}</span>
      <LinkSentence link={block.link} onSay={(link) => onSay({ ...block, link })} />
    </Says>
  )
}
