import { type ReactNode, useEffect, useRef, useState } from 'react'
import { w } from '../words'
import { type Width, widths } from './WordTabs'

/** The real page in a frame, made smaller by a scale. Another address is loaded behind the one that is seen and takes its place where one was. */
export function PageFrame({
  address,
  title,
  width,
  height,
  scale,
  onPage,
  onShown,
  children,
}: {
  address: string
  title: string
  width: Width
  /** Of its place, CSS pixels. */
  height: number
  scale: number
  /** A page has come, and is about to be seen. */
  onPage?: (page: Document) => void
  /** It is seen now. */
  onShown?: (page: Document, address: string) => void
  /** What lies over it. */
  children?: ReactNode
}) {
  const [shown, setShown] = useState<Document | null>(null)
  const [seen, setSeen] = useState(address)
  const frames = useRef(new Map<string, HTMLIFrameElement>())
  const pageOf = (of: string) => frames.current.get(of)?.contentDocument
  function loaded(arrived: string) {
    const page = pageOf(arrived)
    if (!page) return
    if (arrived !== seen) page.defaultView?.scrollTo(0, pageOf(seen)?.defaultView?.scrollY ?? 0)
    onPage?.(page)
    setSeen(arrived)
    setShown(page)
  }
  const told = useRef(onShown)
  told.current = onShown
  // biome-ignore lint/correctness/useExhaustiveDependencies: whenever another page is seen.
  useEffect(() => {
    if (shown) told.current?.(shown, seen)
  }, [shown])
  return (
    <div style={{ width: width * scale, height }} className="relative mx-auto overflow-hidden shadow-float">
      {(seen === address ? [seen] : [seen, address]).map((each) => (
        <iframe
          key={each}
          ref={(frame) => {
            if (frame) frames.current.set(each, frame)
            else frames.current.delete(each)
          }}
          title={each === seen ? `${w.pages.preview}: ${title}` : w.pages.loading}
          aria-hidden={each !== seen}
          src={each}
          className={`absolute inset-0 origin-top-left border-0 bg-raised ${each === seen ? '' : 'invisible'}`}
          style={{ width, height: height / scale, transform: `scale(${scale})` }}
          onLoad={() => loaded(each)}
        />
      ))}
      {children}
    </div>
  )
}

const gap = 12

/** A page at the width of a desktop, a tablet and a phone beside each other, as large to each other as they are; they scroll together. */
export function SideBySide({
  address,
  title,
  box,
  onPage,
}: {
  address: string
  title: string
  /** The room that there is, CSS pixels. */
  box: { width: number; height: number }
  onPage?: (page: Document) => void
}) {
  const pages = useRef(new Map<Width, Document>())
  /** The one that somebody last did something in. */
  const leader = useRef<Width>(1280)
  const scale = (box.width - gap * (widths.length - 1)) / widths.reduce((sum, width) => sum + width, 0)

  /** Where one is scrolled to, the others follow, each by its own length. */
  function follow(from: Width) {
    const page = pages.current.get(from)?.documentElement
    if (!page || leader.current !== from) return
    const share = page.scrollTop / Math.max(1, page.scrollHeight - page.clientHeight)
    for (const [width, { documentElement: other }] of pages.current)
      if (width !== from) other.scrollTop = share * (other.scrollHeight - other.clientHeight)
  }
  return (
    <div className="flex" style={{ gap }}>
      {widths.map((width) => (
        <PageFrame
          key={width}
          address={address}
          title={`${title}, ${width}`}
          width={width}
          height={box.height}
          scale={scale}
          onPage={(page) => {
            pages.current.set(width, page)
            for (const kind of ['wheel', 'touchstart', 'pointerdown', 'keydown'])
              page.addEventListener(kind, () => (leader.current = width), { passive: true })
            page.addEventListener('scroll', () => follow(width), { passive: true })
            onPage?.(page)
          }}
        />
      ))}
    </div>
  )
}
