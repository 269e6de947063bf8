import { Button } from '../../../kit/Button'
import { w } from '../../../words'
import { bytes } from '../../shell/format'
import type { Block, BlockOf } from './blocks'
import { FileChoice, useFilesChosen } from './FileChoice'
import { LineField, Says } from './Parts'

/** The files that visitors may save, in their order, each under the words it is called by. */
export function FilesSettings({ block, onSay }: { block: BlockOf<'files'>; onSay: (block: Block) => void }) {
  const { files } = block
  const chosen = useFilesChosen(files.map((f) => f.file))
  const say = (next: typeof files) => onSay({ ...block, files: next })
  const name = (i: number) => (chosen[i] === null ? w.source.gone : (chosen[i]?.fileName ?? ''))
  return (
    <>
      {files.length > 0 && (
        <ol className="grid gap-1">
          {files.map((offered, i) => (
            <li key={offered.file} className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-3">
              <input
                value={offered.words}
                aria-label={w.offer.called(name(i))}
                placeholder={name(i)}
                maxLength={200}
                className="in-place font-semibold"
                onChange={(e) => say(files.map((f, n) => (n === i ? { ...f, words: e.target.value } : f)))}
              />
              <span className="flex gap-3">
                <span className="text-quiet tabular-nums">{chosen[i] && bytes(chosen[i].bytes)}</span>
                {i > 0 && (
                  <Button
                    look="word"
                    aria-label={w.offer.up(name(i))}
                    onClick={() =>
                      say(files.flatMap((f, n) => (n === i - 1 ? [offered, f] : n === i ? [] : [f])))
                    }
                  >
                    ↑
                  </Button>
                )}
                <Button
                  look="word"
                  aria-label={w.source.takeOff(name(i))}
                  onClick={() => say(files.filter((f) => f.file !== offered.file))}
                >
                  {w.offer.off}
                </Button>
              </span>
            </li>
          ))}
        </ol>
      )}
      <Says>
        <FileChoice
          words={files.length > 0 ? w.offer.another : w.offer.choose}
          without={files.map((f) => f.file)}
          onChoose={(file) => say([...files, { file, words: '' }])}
        />
      </Says>
      <p className="text-quiet">{w.offer.public}</p>
    </>
  )
}

/** A sound: which, and what is said above it. */
export function SoundSettings({ block, onSay }: { block: BlockOf<'sound'>; onSay: (block: Block) => void }) {
  return (
    <>
      <Says>
        <OneFile kind="sound" file={block.file} onChoose={(file) => onSay({ ...block, file })} />
      </Says>
      <LineField line={block.line} label={w.sound.line} onSay={(line) => onSay({ ...block, line })} />
    </>
  )
}

/** One file by its name; pressed, another is chosen. */
export function OneFile({
  kind,
  file,
  onChoose,
}: {
  /** Only of that kind. */
  kind?: 'sound' | 'video'
  file: string | null
  onChoose: (file: string) => void
}) {
  const [chosen] = useFilesChosen(file ? [file] : [])
  return (
    <>
      {file && (
        <span className="font-semibold">{chosen === null ? w.source.gone : (chosen?.fileName ?? '')}</span>
      )}
      <FileChoice
        {...(kind && { kind })}
        without={file ? [file] : []}
        words={file ? w.offer.other : kind ? w.offer.kinds[kind] : w.offer.choose}
        onChoose={onChoose}
      />
    </>
  )
}
