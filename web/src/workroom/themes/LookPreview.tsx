import { useRef, useState } from 'react'
import { PageFrame, SideBySide } from '../../kit/PageFrame'
import { useBox } from '../../kit/useBox'
import { type Width, WidthTabs } from '../../kit/WordTabs'
import { w } from '../../words'

/** A page of the site as it is to look, at the width of a desktop, a tablet or a phone, or at all of them. */
export function LookPreview({ page, title, version }: { page: string; title: string; version: number }) {
  const room = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState<Width | 'all'>(1280)
  const box = useBox(room)
  const address = `/preview/${page}?look=draft&v=${version}`
  return (
    <div className="flex min-h-[70vh] flex-col bg-well px-6 pt-5 pb-6">
      <WidthTabs
        label={w.pages.preview}
        names={w.pages.widths}
        all={w.pages.allWidths}
        width={width}
        onChoose={setWidth}
      />
      <div ref={room} className="min-h-0 flex-1 overflow-hidden">
        {width === 'all' ? (
          <SideBySide address={address} title={title} box={box} />
        ) : (
          <PageFrame
            address={address}
            title={title}
            width={width}
            height={box.height}
            scale={Math.min(1, box.width / width)}
          />
        )}
      </div>
    </div>
  )
}
