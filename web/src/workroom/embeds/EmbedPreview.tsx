import { useEffect, useRef, useState } from 'react'
import { useBox } from '../../kit/useBox'
import { WordTabs } from '../../kit/WordTabs'
import { w } from '../../words'

/** How wide its place may be on another website: a wide page, a column of words, a phone; CSS pixels. */
const places = [1080, 720, 360] as const

/** The embed as it will stand there: the real one, as high as it says. */
export function EmbedPreview({ source, title }: { source: string; title: string }) {
  const room = useRef<HTMLDivElement>(null)
  const frame = useRef<HTMLIFrameElement>(null)
  const [place, setPlace] = useState<(typeof places)[number]>(720)
  const [height, setHeight] = useState(480)
  const box = useBox(room)
  useEffect(() => {
    function hear({ source: from, data }: MessageEvent) {
      if (from === frame.current?.contentWindow && typeof data?.embedHeight === 'number')
        setHeight(data.embedHeight)
    }
    addEventListener('message', hear)
    return () => removeEventListener('message', hear)
  }, [])
  const scale = Math.min(1, box.width / place)
  return (
    <div className="flex min-h-[70vh] min-w-0 flex-col bg-well px-6 pt-5">
      <WordTabs
        label={w.embeds.preview}
        tabs={places.map((each, i) => [
          each,
          <span key={each}>
            {w.embeds.widths[i]} <span className="tabular-nums">{each}</span>
          </span>,
        ])}
        chosen={place}
        onChoose={setPlace}
        className="mb-3 text-small"
      />
      <div ref={room} className="min-h-0 flex-1 overflow-x-hidden overflow-y-auto">
        <div
          className="mx-auto mb-6 overflow-hidden shadow-float"
          style={{ width: place * scale, height: height * scale }}
        >
          <iframe
            ref={frame}
            src={source}
            title={`${w.embeds.preview}: ${title}`}
            className="origin-top-left border-0"
            style={{ width: place, height, transform: `scale(${scale})` }}
          />
        </div>
      </div>
    </div>
  )
}
