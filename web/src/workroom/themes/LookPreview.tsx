import { useRef, useState } from 'react'
import { useBox } from '../../kit/useBox'
import { WidthTabs } from '../../kit/WordTabs'
import { w } from '../../words'

/** A page of the site as it is to look, at the width of a desktop, a tablet or a phone. A new look is loaded behind the one that is seen. */
export function LookPreview({ page, title, version }: { page: string; title: string; version: number }) {
  const room = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState<1280 | 820 | 390>(1280)
  const box = useBox(room)
  const next = `${page}?look=draft&v=${version}`
  const [seen, setSeen] = useState(next)
  const scale = Math.min(1, box.width / width)
  return (
    <div className="flex min-h-[70vh] flex-col bg-well px-6 pt-5 pb-6">
      <WidthTabs label={w.pages.preview} names={w.pages.widths} width={width} onChoose={setWidth} />
      <div ref={room} className="min-h-0 flex-1 overflow-hidden">
        <div
          style={{ width: width * scale, height: box.height }}
          className="relative mx-auto overflow-hidden shadow-float"
        >
          {(seen === next ? [seen] : [seen, next]).map((address) => (
            <iframe
              key={address}
              title={address === seen ? `${w.pages.preview}: ${title}` : w.pages.loading}
              aria-hidden={address !== seen}
              src={`/preview/${address}`}
              className={`absolute inset-0 origin-top-left border-0 bg-raised ${address === seen ? '' : 'invisible'}`}
              style={{ width, height: box.height / scale, transform: `scale(${scale})` }}
              onLoad={() => setSeen(address)}
            />
          ))}
        </div>
      </div>
    </div>
  )
}
