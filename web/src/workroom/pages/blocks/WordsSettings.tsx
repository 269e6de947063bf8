import { Button } from '../../../kit/Button'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import type { Typing } from '../typing/typing'
import type { Block, BlockOf } from './blocks'
import { Says } from './Parts'
import { TextLink } from './TextLink'

/** The words of a heading, which are typed on the page or here, and how large it is. */
export function HeadingSettings({
  block,
  onSay,
}: {
  block: BlockOf<'heading'>
  onSay: (block: Block) => void
}) {
  return (
    <>
      <input
        value={block.words}
        aria-label={w.heading.label}
        placeholder={w.heading.type}
        maxLength={200}
        className="in-place"
        onChange={(e) => onSay({ ...block, words: e.target.value })}
      />
      {block.words === '' && <p className="text-quiet">{w.heading.ofTitle}</p>}
      <Says>
        <span>{w.heading.set}</span>
        <WordSelect
          label={w.heading.size}
          value={block.size}
          choices={(['large', 'middle', 'small'] as const).map((s) => [s, w.heading.sizes[s]] as const)}
          onChoose={(size) => onSay({ ...block, size })}
        />
      </Says>
    </>
  )
}

/** A text is typed on the page, as it will look; here stand the verbs for what is marked there. */
export function TextSettings({ block, typing }: { block: BlockOf<'text'>; typing: Typing }) {
  if (typing.block !== block.id)
    return (
      <p>
        <Button look="word" onClick={() => typing.begin(block.id)}>
          {w.text.type}
        </Button>
      </p>
    )
  return (
    // The keyboard stays on the page while one presses these.
    // biome-ignore lint/a11y/noStaticElementInteractions: it only keeps a press from taking the keyboard away.
    <div onMouseDown={(e) => e.target instanceof HTMLButtonElement && e.preventDefault()}>
      <p className="text-quiet">{w.text.keys}</p>
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        {(['strong', 'slanted', 'subheading', 'list', 'numbered', 'quote'] as const).map((verb) => (
          <Button
            key={verb}
            look="word"
            aria-pressed={typing.on(verb)}
            className={typing.on(verb) ? 'font-semibold text-plum' : ''}
            onClick={() => typing.act(verb)}
          >
            {w.text[verb]}
          </Button>
        ))}
        <TextLink typing={typing} />
        <Button look="word" onClick={() => typing.end()}>
          {w.text.done}
        </Button>
      </p>
    </div>
  )
}
