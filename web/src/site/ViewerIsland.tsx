import { useCallback, useEffect, useRef, useState } from 'react'
import { createRoot } from 'react-dom/client'
import { w } from '../words/site'
import { useZoom } from './useZoom'
import { ViewerSteps } from './ViewerSteps'
import type { Frame, Walk } from './walk'

/** A photo of a walk, open in the viewer. */
type Open = { walk: Walk; place: number; frame: Frame }

export type ViewerHandle = { open: (walk: Walk, place: number) => void }

/** So many photos on either side are known before one comes to them. */
const beside = 20
/** So long each photo stands while they play, milliseconds. */
const pace = 4000

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

/** Where a photo is saved from, by the address of its own page. */
function saveAddress(href: string) {
  const { pathname, searchParams } = new URL(href, location.href)
  return `${pathname}/save?in=${searchParams.get('in') ?? 1}`
}

/** How many pixels across its largest rendition has. */
const largestOf = (frame: Frame) =>
  Math.max(...frame.sources.split(',').map((source) => Number(/(\d+)w\s*$/.exec(source)?.[1] ?? 0)))

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
  const [plays, setPlays] = useState(false)

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

  const to = useCallback(
    (by: number) => {
      setPlays(false)
      void step(by)
    },
    [step],
  )
  const last = shown ? shown.walk.shown - 1 : 0
  const zoom = useZoom(frame?.id ?? '', frame ? largestOf(frame) : 0, to)
  useEffect(() => {
    if (!plays || !shown || zoom.zoom.scale > 1) return
    if (shown.place >= last) return setPlays(false)
    const next = setTimeout(() => void step(1), pace)
    return () => clearTimeout(next)
  }, [plays, shown, last, step, zoom.zoom.scale])
  useEffect(() => {
    if (!shown) setPlays(false)
  }, [shown])

  // That somebody looked is counted, not who; a draft is looked at by staff.
  const seen = frame?.id
  const counts = shown?.walk.element.dataset.view?.startsWith('/site/')
  useEffect(() => {
    if (seen && counts) navigator.sendBeacon(`/site/seen/${seen}`)
  }, [seen, counts])

  if (!shown || !frame) return null
  const title = frame.title || w.untitled
  const { hides, save } = shown.walk.element.dataset
  const { scale, x, y } = zoom.zoom
  const keys: Record<string, () => void> = {
    ArrowRight: () => to(1),
    ArrowLeft: () => to(-1),
    Home: () => to(-shown.place),
    End: () => to(last - shown.place),
    '+': zoom.larger,
    '=': zoom.larger,
    '-': zoom.smaller,
    // First it is whole again, then the viewer closes.
    Escape: () => (scale > 1 ? zoom.turnRound() : close()),
  }
  return (
    <dialog
      ref={dialog}
      className="viewer"
      aria-label={`${w.viewer}: ${title}`}
      onCancel={(e) => {
        e.preventDefault()
        close()
      }}
      onClose={close}
      onKeyDown={(e) => {
        const key = e.ctrlKey || e.metaKey || e.altKey ? undefined : keys[e.key]
        if (!key) return
        e.preventDefault()
        key()
      }}
      onClick={(e) =>
        e.target instanceof Element &&
        e.target.matches('.viewer, .viewer-stage') &&
        !zoom.wasDragged() &&
        scale === 1 &&
        close()
      }
    >
      <div ref={zoom.stage} className={scale > 1 ? 'viewer-stage larger' : 'viewer-stage'} {...zoom.on}>
        <img
          ref={zoom.picture}
          key={frame.id}
          src={frame.source}
          srcSet={frame.sources}
          sizes={scale > 1 ? `${largestOf(frame)}px` : sizes(frame)}
          style={scale > 1 ? { transform: `translate(${x}px, ${y}px) scale(${scale})` } : {}}
          width={frame.width}
          height={frame.height}
          alt={frame.alt || title}
          draggable={false}
        />
      </div>
      <div className="viewer-words" aria-live={plays ? 'off' : 'polite'}>
        <div>
          <h2 className={hides?.includes('title') ? 'unseen' : ''}>{title}</h2>
          {frame.caption && !hides?.includes('caption') && <p>{frame.caption}</p>}
          {frame.facts && <p className="facts">{frame.facts}</p>}
          {frame.credit && <p className="credit">{frame.credit}</p>}
        </div>
        <ViewerSteps
          place={shown.place}
          of={shown.walk.shown}
          plays={plays}
          larger={scale > 1}
          save={save === undefined ? undefined : saveAddress(frame.href)}
          onPlay={() => setPlays(!plays)}
          onLarger={() => zoom.turnRound()}
          onStep={to}
          onClose={close}
        />
      </div>
      <div hidden>
        {[shown.walk.at(shown.place - 1), shown.walk.at(shown.place + 1)].map(
          (next) => next && <img key={next.id} srcSet={next.sources} sizes={sizes(next)} alt="" />,
        )}
      </div>
    </dialog>
  )
}
