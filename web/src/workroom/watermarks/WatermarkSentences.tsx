import { api, body, bytesOf } from '../../api/client'
import { Choice } from '../../kit/Button'
import { FileVerb } from '../../kit/FileVerb'
import { Range } from '../../kit/Range'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useSession } from '../shell/data'
import { useBringing } from '../shell/useBringing'
import type { Watermark } from './useWatermark'
import { WatermarkPlace } from './WatermarkPlace'

const letters = (['plain', 'serif', 'hand'] as const).map((l) => [l, w.watermark.letters[l]] as const)

/** What a watermark is made of, and how it stands on photos. */
export function WatermarkSentences({
  watermark,
  fault,
  onSay,
}: {
  watermark: Watermark
  fault: string
  onSay: (next: Partial<Watermark>) => void
}) {
  const bounds = useSession().data?.bounds.watermark
  if (!bounds) return null
  const { usual } = bounds
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <span>{w.watermark.is}</span>
        {(['words', 'picture'] as const).map((kind) => (
          <Choice key={kind} on={watermark.kind === kind} onClick={() => onSay({ kind })}>
            {w.watermark.kinds[kind]}
          </Choice>
        ))}
      </p>
      {watermark.kind === 'words' ? (
        <>
          <p className="mt-4 border-b border-strong-line">
            <input
              className="in-place w-full"
              aria-label={w.watermark.words}
              placeholder={w.watermark.wordsHint}
              maxLength={bounds.longestWords}
              value={watermark.words}
              onChange={(e) => onSay({ words: e.target.value })}
            />
          </p>
          <p className="mt-2 flex flex-wrap items-baseline gap-x-1.5">
            <span>{w.watermark.set}</span>
            <WordSelect
              label={w.watermark.lettering}
              value={watermark.lettering}
              choices={letters}
              onChoose={(lettering) => onSay({ lettering })}
            />
          </p>
        </>
      ) : (
        <Picture watermark={watermark} largest={bounds.largestPicture} onSay={onSay} />
      )}
      {fault && (
        <p role="alert" className="mt-2 font-semibold">
          {fault}
        </p>
      )}
      <WatermarkPlace place={watermark.place} onSay={(place) => onSay({ place })} />
      <div className="mt-5 grid gap-4">
        <Range
          label={w.watermark.size}
          value={watermark.size}
          least={bounds.smallest}
          most={bounds.largest}
          rest={usual.size}
          says={w.watermark.percent(watermark.size)}
          onChange={(size) => onSay({ size })}
        />
        <Range
          label={w.watermark.strength}
          value={watermark.strength}
          least={bounds.faintest}
          most={bounds.strongest}
          rest={usual.strength}
          says={w.watermark.percent(watermark.strength)}
          onChange={(strength) => onSay({ strength })}
        />
        {watermark.place !== 'allOver' && watermark.place !== 'middle' && (
          <Range
            label={w.watermark.inset}
            value={watermark.inset}
            least={0}
            most={bounds.widestInset}
            rest={usual.inset}
            says={w.watermark.percent(watermark.inset)}
            onChange={(inset) => onSay({ inset })}
          />
        )}
      </div>
    </>
  )
}

function Picture({
  watermark,
  largest,
  onSay,
}: {
  watermark: Watermark
  largest: number
  onSay: (next: Partial<Watermark>) => void
}) {
  const { fault, bring } = useBringing(
    async (file) =>
      onSay({
        picture: await body(
          api.POST('/api/watermark/pictures', bytesOf(file, 'application/octet-stream')),
          w.errors.away,
        ),
      }),
    largest,
    w.watermark.tooLarge(largest),
  )
  return (
    <>
      <p className="mt-3 flex flex-wrap items-baseline gap-x-3 gap-y-1">
        <FileVerb label={w.watermark.bring} accept=".png,.webp,.svg,.jpg,.jpeg,.gif" onFile={bring}>
          {watermark.picture ? w.watermark.another : w.watermark.bring}
        </FileVerb>
        <span className="text-small text-quiet">{w.watermark.pictureHint}</span>
      </p>
      {fault && (
        <p role="alert" className="mt-1 font-semibold">
          {fault}
        </p>
      )}
    </>
  )
}
