import { useCallback, useEffect, useRef, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { w } from '../words/site'

/** The picture of a frame: the page knows which renditions there are and where. */
const pictureOf = (link: HTMLAnchorElement) => link.querySelector('img')

export type ViewerHandle = { open: (link: HTMLAnchorElement) => void }

const swipe = 45

/** The photos that the visitor sees now, in their order. */
function shown(frames: HTMLElement) {
  return [...frames.querySelectorAll<HTMLAnchorElement>('a[data-id]:not([hidden])')]
}

/** Makes the viewer and gives the way to open it. */
export function mountViewer(frames: HTMLElement): ViewerHandle {
  const place = document.createElement('div')
  document.body.append(place)
  let open: (link: HTMLAnchorElement) => void = () => {}
  const ready = new Promise<void>((resolve) => {
    createRoot(place).render(
      <Viewer
        frames={frames}
        onReady={(opener) => {
          open = opener
          resolve()
        }}
      />,
    )
  })
  return { open: (link) => void ready.then(() => open(link)) }
}

/** One photo over the whole window. It walks what the visitor narrowed to, has an address, and leaves the page as it was. */
function Viewer({
  frames,
  onReady,
}: {
  frames: HTMLElement
  onReady: (open: (link: HTMLAnchorElement) => void) => void
}) {
  const [link, setLink] = useState<HTMLAnchorElement | null>(null)
  const dialog = useRef<HTMLDialogElement>(null)
  const came = useRef<HTMLAnchorElement | null>(null)
  const opened = useRef(false)
  const touch = useRef<{ x: number; y: number } | null>(null)

  const open = useCallback((to: HTMLAnchorElement) => {
    came.current = to
    opened.current = true
    history.pushState({ viewer: true }, '', to.href)
    setLink(to)
  }, [])
  useEffect(() => onReady(open), [onReady, open])

  const close = useCallback(() => {
    if (opened.current) history.back()
  }, [])
  const photos = link ? shown(frames) : []
  const at = link ? photos.indexOf(link) : -1
  const step = useCallback(
    (by: number) => {
      const next = photos[at + by]
      if (!next) return
      history.replaceState({ viewer: true }, '', next.href)
      setLink(next)
    },
    [photos, at],
  )

  useEffect(() => {
    function back() {
      const id = location.pathname.split('/photo/')[1]
      const there = id ? shown(frames).find((a) => a.dataset.id === id) : undefined
      if (there) {
        opened.current = true
        setLink(there)
      } else {
        opened.current = false
        setLink(null)
      }
    }
    window.addEventListener('popstate', back)
    return () => window.removeEventListener('popstate', back)
  }, [frames])

  useEffect(() => {
    if (link) {
      if (!dialog.current?.open) dialog.current?.showModal()
      document.documentElement.classList.add('viewing')
      return
    }
    document.documentElement.classList.remove('viewing')
    const last = came.current
    last?.focus({ preventScroll: true })
    last?.scrollIntoView({ block: 'nearest' })
  }, [link])
  if (link) came.current = link

  // That somebody looked is counted, not who; a draft is looked at by staff.
  const seen = link?.dataset.id
  useEffect(() => {
    if (seen && frames.dataset.view?.startsWith('/site/')) navigator.sendBeacon(`/site/seen/${seen}`)
  }, [seen, frames])

  if (!link) return null
  const data = link.dataset
  const width = Number(data.w)
  const height = Number(data.h)
  const title = data.title || w.untitled
  const alt = pictureOf(link)?.alt ?? title
  return (
    <dialog
      ref={dialog}
      className="viewer"
      aria-label={`${w.viewer}: ${title}`}
      onCancel={(e) => {
        e.preventDefault()
        close()
      }}
      onKeyDown={(e) => {
        if (e.key === 'ArrowRight') step(1)
        else if (e.key === 'ArrowLeft') step(-1)
        else return
        e.preventDefault()
      }}
      onClick={(e) => e.target instanceof Element && e.target.matches('.viewer, .viewer-stage') && close()}
      onPointerDown={(e) => {
        touch.current = e.pointerType === 'mouse' ? null : { x: e.clientX, y: e.clientY }
      }}
      onPointerUp={(e) => {
        const from = touch.current
        if (!from) return
        const away = e.clientX - from.x
        if (Math.abs(away) > swipe && Math.abs(away) > Math.abs(e.clientY - from.y) * 1.5)
          step(away < 0 ? 1 : -1)
        touch.current = null
      }}
    >
      <div className="viewer-stage">
        <img
          key={data.id}
          src={pictureOf(link)?.src}
          srcSet={pictureOf(link)?.srcset}
          sizes={`min(100vw, calc((100vh - 7rem) * ${(width / height).toFixed(4)}))`}
          width={width}
          height={height}
          alt={alt}
          draggable={false}
        />
      </div>
      <div className="viewer-words" aria-live="polite">
        <div>
          <h2>{title}</h2>
          {data.caption && <p>{data.caption}</p>}
          {data.credit && <p className="credit">{data.credit}</p>}
        </div>
        <div className="viewer-steps">
          <span className="count">{w.of(at + 1, photos.length)}</span>
          <button type="button" aria-label={w.previous} disabled={at <= 0} onClick={() => step(-1)}>
            ←
          </button>
          <button
            type="button"
            aria-label={w.next}
            disabled={at >= photos.length - 1}
            onClick={() => step(1)}
          >
            →
          </button>
          <button type="button" className="viewer-close" onClick={close}>
            {w.close}
          </button>
        </div>
      </div>
      <div hidden>
        {[photos[at - 1], photos[at + 1]].map(
          (beside) =>
            beside && (
              <img
                key={beside.dataset.id}
                srcSet={pictureOf(beside)?.srcset}
                sizes={`min(100vw, calc((100vh - 7rem) * ${(Number(beside.dataset.w) / Number(beside.dataset.h)).toFixed(4)}))`}
                alt=""
              />
            ),
        )}
      </div>
    </dialog>
  )
}
