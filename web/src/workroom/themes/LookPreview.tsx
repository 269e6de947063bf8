import { type ReactNode, useEffect, useRef, useState } from 'react'
import { PageFrame, SideBySide } from '../../kit/PageFrame'
import { hasButtons, showStates } from '../../kit/states'
import { useBox } from '../../kit/useBox'
import { Switch, type Width, WidthTabs } from '../../kit/WordTabs'
import { w } from '../../words'

/** A page of the site as it is to look, at the width of a desktop, a tablet or a phone, or at all of them. */
export function LookPreview({
  page,
  title,
  version,
  children,
}: {
  page: string
  title: string
  version: number
  /** What else stands in the line above it, at its end. */
  children?: ReactNode
}) {
  const room = useRef<HTMLDivElement>(null)
  const [width, setWidth] = useState<Width | 'all'>(1280)
  const [inStates, setInStates] = useState(false)
  const [isNarrowed, setNarrowed] = useState(false)
  const box = useBox(room)
  /** The pages that stand in frames. */
  const pages = useRef(new Set<Document>())
  function arrived(shown: Document) {
    for (const gone of pages.current) if (!gone.defaultView) pages.current.delete(gone)
    pages.current.add(shown)
    setNarrowed(hasButtons(shown))
    showStates(shown, inStates ? w.frames.states : null)
  }
  useEffect(() => {
    for (const each of pages.current) showStates(each, inStates ? w.frames.states : null)
  }, [inStates])
  const address = `/preview/${page}?look=draft&v=${version}`
  return (
    <div className="flex min-h-[70vh] min-w-0 flex-col bg-well px-6 pt-5 pb-6">
      <WidthTabs
        label={w.pages.preview}
        names={w.pages.widths}
        all={w.pages.allWidths}
        width={width}
        onChoose={setWidth}
      >
        {isNarrowed && (
          <Switch on={inStates} onPress={setInStates} words={[w.frames.inStates, w.frames.asTheyAre]} />
        )}
        {children}
      </WidthTabs>
      <div ref={room} className="min-h-0 flex-1 overflow-hidden">
        {width === 'all' ? (
          <SideBySide address={address} title={title} box={box} onPage={arrived} />
        ) : (
          <PageFrame
            address={address}
            title={title}
            width={width}
            height={box.height}
            scale={Math.min(1, box.width / width)}
            onPage={arrived}
          />
        )}
      </div>
    </div>
  )
}
