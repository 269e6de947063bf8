import { useEffect, useState } from 'react'
import type { Api } from '../../api/client'
import { w } from '../../words'
import type { Watermark } from './useWatermark'

/** A pause after the last change, milliseconds: pictures are made anew for each. */
const pause = 200

/** Photos of several shapes with the watermark that is tried, as visitors would get them. */
export function WatermarkExamples({
  watermark,
  examples,
}: {
  watermark: Watermark
  examples: readonly Api['WatermarkExample'][]
}) {
  const said = asAsked(watermark)
  const [asked, setAsked] = useState(said)
  useEffect(() => {
    const timer = setTimeout(() => setAsked(said), pause)
    return () => clearTimeout(timer)
  }, [said])
  // Beside each other as high as one another, and together as wide as the room.
  const [first, ...others] = examples
  return (
    <section
      aria-label={w.watermark.examples}
      className="overflow-y-auto bg-well p-7 max-lg:overflow-visible"
    >
      {first ? (
        <div className="mx-auto grid max-w-[900px] gap-4">
          <Example of={first} asked={asked} />
          <div className="flex gap-4">
            {others.map((example) => (
              <Example key={example.photo} of={example} asked={asked} />
            ))}
          </div>
        </div>
      ) : (
        <p className="text-quiet">{w.watermark.noExamples}</p>
      )}
    </section>
  )
}

function Example({ of, asked }: { of: Api['WatermarkExample']; asked: string }) {
  const shape = of.width / of.height
  return (
    <img
      src={`/api/watermark/preview/${of.photo}?${asked}`}
      alt={w.watermark.example(of.name)}
      width={of.width}
      height={of.height}
      className="block h-auto min-w-0 bg-line"
      style={{ flex: `${shape} ${shape} 0`, aspectRatio: shape }}
    />
  )
}

const asAsked = ({ kind, words, lettering, picture, place, size, strength, inset }: Watermark) =>
  new URLSearchParams({
    kind,
    words,
    lettering,
    picture: picture?.picture ?? '',
    place,
    size: String(size),
    strength: String(strength),
    inset: String(inset),
  }).toString()
