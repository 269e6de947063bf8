import type { ReactNode } from 'react'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import type { Typing } from '../typing/typing'
import { AbsentFold } from './AbsentFold'
import { BarFold } from './bar/BarFold'
import type { Block, BlockOf } from './blocks'
import { ContactSettings } from './ContactSettings'
import { FilesSettings, SoundSettings } from './FileSettings'
import { FrameFold } from './FrameFold'
import { PressFold } from './frames/PressFold'
import { TouchFold } from './frames/TouchFold'
import { WordsFold } from './frames/WordsFold'
import { GroundFold } from './GroundFold'
import { IndexSettings } from './IndexSettings'
import { LayoutFolds } from './LayoutFolds'
import { LayoutSentence } from './LayoutSentence'
import { LinkSentence } from './LinkSentence'
import { type Around, LookFold } from './LookFold'
import { MoreFold } from './MoreFold'
import { OnePhotoSettings } from './OnePhotoSettings'
import { Says } from './Parts'
import { SourceSentence } from './SourceSentence'
import { VideoSettings } from './VideoSettings'
import { HeadingSettings, TextSettings } from './WordsSettings'

type Props = {
  block: Block
  /** How many blocks stand side by side where it stands; 1 where it stands alone. */
  beside: number
  /** How it looks where it stands; none while nobody knows. */
  around: Around | null
  typing: Typing
  onSay: (block: Block) => void
}

/** What is set of a block, read as sentences; what is asked for seldom is folded beneath them. */
export function BlockSettings({ block, beside, around, typing, onSay }: Props) {
  const ground = (
    <GroundFold
      block={block}
      beside={beside}
      onSay={(next) => onSay({ ...block, frame: { ...block.frame, ground: next } })}
    />
  )
  if (block.kind === 'beside') return <Settings folds={ground} />
  const frame = (
    <>
      <FrameFold frame={block.frame} beside={beside > 1} onSay={(next) => onSay({ ...block, frame: next })} />
      {ground}
      {around && (
        <LookFold
          block={block}
          around={around}
          onSay={(look) => onSay({ ...block, frame: { ...block.frame, look } })}
        />
      )}
    </>
  )
  return block.kind === 'photos' ? (
    <PhotosSettings block={block} beside={beside} frame={frame} onSay={onSay} />
  ) : (
    <Settings folds={frame}>
      <Sentences block={block} beside={beside} typing={typing} onSay={onSay} />
    </Settings>
  )
}

function Sentences({ block, beside, typing, onSay }: Omit<Props, 'around'>) {
  switch (block.kind) {
    case 'heading':
      return <HeadingSettings block={block} onSay={onSay} />
    case 'text':
      return <TextSettings block={block} typing={typing} />
    case 'photo':
      return <OnePhotoSettings block={block} beside={beside} onSay={onSay} />
    case 'video':
      return <VideoSettings block={block} beside={beside} onSay={onSay} />
    case 'sound':
      return <SoundSettings block={block} onSay={onSay} />
    case 'files':
      return <FilesSettings block={block} onSay={onSay} />
    case 'index':
      return <IndexSettings block={block} onSay={onSay} />
    case 'contact':
      return <ContactSettings block={block} onSay={onSay} />
    case 'button':
      return <ButtonSettings block={block} onSay={onSay} />
    case 'divider':
      return (
        <Says>
          <span>{w.divider.is}</span>
          <WordSelect
            label={w.divider.label}
            value={block.line ? 'line' : 'space'}
            choices={(['line', 'space'] as const).map((k) => [k, w.divider.kinds[k]] as const)}
            onChoose={(kind) => onSay({ ...block, line: kind === 'line' })}
          />
        </Says>
      )
  }
}

function Settings({ folds, children }: { folds: ReactNode; children?: ReactNode }) {
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
          {!(block.source.byLot && block.source.most !== null) && (
            <BarFold bar={block.bar} source={block.source} onSay={(bar) => onSay({ ...block, bar })} />
          )}
          <LayoutFolds layout={block.layout} onSay={(layout) => onSay({ ...block, layout })} />
          {block.layout.kind !== 'strip' && block.layout.kind !== 'slides' && (
            <MoreFold more={block.more} onSay={(more) => onSay({ ...block, more })} />
          )}
          <WordsFold
            words={block.words}
            isList={block.layout.kind === 'list'}
            onSay={(words) => onSay({ ...block, words })}
          />
          <TouchFold
            touch={block.touch}
            hasWordsOver={[block.words.desktop, block.words.tablet, block.words.phone].some(
              (set) => set && [set.first, set.second].includes('touched'),
            )}
            onSay={(touch) => onSay({ ...block, touch })}
          />
          <PressFold press={block.press} onSay={(press) => onSay({ ...block, press })} />
          <AbsentFold block={block} onSay={(absent) => onSay({ ...block, absent })} />
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
      <LayoutSentence block={block} beside={beside} onSay={(layout) => onSay({ ...block, layout })} />
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
