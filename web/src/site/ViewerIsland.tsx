import { useCallback, useEffect, useRef, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { w } from '../words/site'
import type { Frame, Walk } from './walk'

/** A photo of a walk, open in the viewer. */
type Open = { walk: Walk; place: number; frame: Frame }

export type ViewerHandle = { open: (walk: Walk, place: number) => void }

const swipe = 45
/** So many photos on either side are known before one comes to them. */
const beside = 20

/** Makes the viewer and gives the way to open it. */
export function mountViewer(walks: readonly Walk[]): ViewerHandle {
  const place = document.createElement('div')
  document.body.append(place)
  let open: ViewerHandle['open'] = () => {}
  const ready = new Promise<void>((resolve) => {
    createRoot(place).render(
      <Viewer
        walks={walks}
        onReady={(opener) => {
          open = opener
          resolve()
        }}
      />,
    )
  })
  return { open: (walk, at) => void ready.then(() => open(walk, at)) }
}

/** How large a photo is shown: as large as the window and its words leave room for. */
const sizes = (frame: Frame) =>
  `min(100vw, calc((100vh - 7rem) * ${(frame.width / frame.height).toFixed(4)}))`

/** One photo over the whole window. It walks what the visitor narrowed to, has an address, and leaves the page as it was. */
function Viewer({
  walks,
  onReady,
}: {
  walks: readonly Walk[]
  onReady: (open: ViewerHandle['open']) => void
}) {
  const [shown, setShown] = useState<Open | null>(null)
  // What is known of the photos beside grows while one looks.
  const [, setKnown] = useState(0)
  const dialog = useRef<HTMLDialogElement>(null)
  const came = useRef<Open | null>(null)
  const opened = useRef(false)
  const touch = useRef<{ x: number; y: number } | null>(null)

  const open = useCallback((walk: Walk, place: number) => {
    const frame = walk.at(place)
    if (!frame) return
    opened.current = true
    // Back at the page one stands at the photo that was looked at last, not where one had scrolled to.
    history.scrollRestoration = 'manual'
    history.pushState({ viewer: true }, '', frame.href)
    setShown({ walk, place, frame })
  }, [])
  useEffect(() => onReady(open), [onReady, open])

  const close = useCallback(() => {
    if (opened.current) history.back()
  }, [])
  const frame = shown?.frame
  const step = useCallback(
    async (by: number) => {
      if (!shown) return
      const { walk } = shown
      // Where the window changed meanwhile it may have another place, and those beside it are to be asked for again.
      const place = (walk.find(shown.frame.id) ?? shown.place) + by
      if (place < 0 || place >= walk.shown) return
      if (!walk.at(place)) await walk.near(place, beside).catch(() => {})
      const next = walk.at(place)
      if (!next) return
      history.replaceState({ viewer: true }, '', next.href)
      setShown({ walk, place, frame: next })
    },
    [shown],
  )
  useEffect(() => {
    if (shown)
      void shown.walk.near(shown.place, beside).then(
        () => setKnown((n) => n + 1),
        () => {},
      )
  }, [shown])

  useEffect(() => {
    function back() {
      const id = location.pathname.split('/photo/')[1]
      const number = Number(new URLSearchParams(location.search).get('in') ?? 1)
      const walk = walks.find((each) => each.number === number)
      const place = id ? walk?.find(id) : undefined
      const frame = place === undefined ? undefined : walk?.at(place)
      opened.current = frame !== undefined
      setShown(walk && place !== undefined && frame ? { walk, place, frame } : null)
    }
    window.addEventListener('popstate', back)
    return () => window.removeEventListener('popstate', back)
  }, [walks])

  useEffect(() => {
    if (shown) {
      if (!dialog.current?.open) dialog.current?.showModal()
      document.documentElement.classList.add('viewing')
      return
    }
    document.documentElement.classList.remove('viewing')
    history.scrollRestoration = 'auto'
    if (came.current) void came.current.walk.show(came.current.place)
  }, [shown])
  if (shown) came.current = shown

  // That somebody looked is counted, not who; a draft is looked at by staff.
  const seen = frame?.id
  const counts = shown?.walk.element.dataset.view?.startsWith('/site/')
  useEffect(() => {
    if (seen && counts) navigator.sendBeacon(`/site/seen/${seen}`)
  }, [seen, counts])

  if (!shown || !frame) return null
  const title = frame.title || w.untitled
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
        if (e.key === 'ArrowRight') void step(1)
        else if (e.key === 'ArrowLeft') void step(-1)
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
          void step(away < 0 ? 1 : -1)
        touch.current = null
      }}
    >
      <div className="viewer-stage">
        <img
          key={frame.id}
          src={frame.source}
          srcSet={frame.sources}
          sizes={sizes(frame)}
          width={frame.width}
          height={frame.height}
          alt={frame.alt || title}
          draggable={false}
        />
      </div>
      <div className="viewer-words" aria-live="polite">
        <div>
          <h2>{title}</h2>
          {frame.caption && <p>{frame.caption}</p>}
          {frame.credit && <p className="credit">{frame.credit}</p>}
        </div>
        <div className="viewer-steps">
          <span className="count">{w.of(shown.place + 1, shown.walk.shown)}</span>
          <button
            type="button"
            aria-label={w.previous}
            disabled={shown.place <= 0}
            onClick={() => void step(-1)}
          >
            ←
          </button>
          <button
            type="button"
            aria-label={w.next}
            disabled={shown.place >= shown.walk.shown - 1}
            onClick={() => void step(1)}
          >
            →
          </button>
          <button type="button" className="viewer-close" onClick={close}>
            {w.close}
          </button>
        </div>
      </div>
      <div hidden>
        {[shown.walk.at(shown.place - 1), shown.walk.at(shown.place + 1)].map(
          (next) => next && <img key={next.id} srcSet={next.sources} sizes={sizes(next)} alt="" />,
        )}
      </div>
    </dialog>
  )
}
