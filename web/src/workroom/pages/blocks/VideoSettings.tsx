import { Button } from '../../../kit/Button'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import type { Block, BlockOf } from './blocks'
import { OneFile } from './FileSettings'
import { LineField, Says } from './Parts'
import { PhotoChoice } from './PhotoChoice'

const shapes = ['wide', 'classic', 'square', 'upright'] as const

/** A video: which, the shape of its frame, and what stands there until it is played. */
export function VideoSettings({
  block,
  beside,
  onSay,
}: {
  block: BlockOf<'video'>
  beside: number
  onSay: (block: Block) => void
}) {
  return (
    <>
      <Says>
        <span>{w.video.lies}</span>
        <WordSelect
          label={w.video.from}
          value={block.from}
          choices={(['file', 'address'] as const).map((from) => [from, w.video.froms[from]] as const)}
          onChoose={(from) => onSay({ ...block, from })}
        />
        {block.from === 'file' ? (
          <OneFile kind="video" file={block.file} onChoose={(file) => onSay({ ...block, file })} />
        ) : (
          <input
            key={block.address}
            defaultValue={block.address}
            aria-label={w.video.address}
            placeholder="https://…"
            className="min-w-40 border-b border-strong-line bg-transparent outline-none [field-sizing:content] focus:border-plum"
            onBlur={(e) => {
              const address = e.target.value.trim()
              if (address !== block.address) onSay({ ...block, address })
            }}
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          />
        )}
      </Says>
      {block.from === 'address' && <p className="text-quiet">{w.video.asks}</p>}
      <Says>
        <span>{w.video.frame}</span>
        <WordSelect
          label={w.video.shape}
          value={block.shape}
          choices={shapes.map((shape) => [shape, w.video.shapes[shape]] as const)}
          onChoose={(shape) => onSay({ ...block, shape })}
        />
      </Says>
      <Still block={block} beside={beside} onSay={(still) => onSay({ ...block, still })} />
      <LineField line={block.line} label={w.one.line} onSay={(line) => onSay({ ...block, line })} />
    </>
  )
}

/** The photo that stands there until the video is played. */
function Still({
  block,
  beside,
  onSay,
}: {
  block: BlockOf<'video'>
  beside: number
  onSay: (still: string | null) => void
}) {
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-1">
      <span className="basis-full">
        {w.video.until}
        {block.from === 'address' && !block.still && ` ${w.video.dark}`}
      </span>
      <PhotoChoice photo={block.still} block={block} beside={beside} onSay={onSay} />
      {block.still && (
        <Button look="word" onClick={() => onSay(null)}>
          {w.video.noStill}
        </Button>
      )}
    </div>
  )
}
