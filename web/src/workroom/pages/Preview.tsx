import { type Ref, useCallback, useEffect, useImperativeHandle, useRef, useState } from 'react'
import { PageFrame, SideBySide } from '../../kit/PageFrame'
import { showStates } from '../../kit/states'
import { useBox } from '../../kit/useBox'
import { Switch, type Width, WidthTabs } from '../../kit/WordTabs'
import { w } from '../../words'
import { VersionBand } from './Versions'

export type PreviewHandle = {
  /** The page to type on; null until it is there. Where it is seen at all widths, one page takes their place for that. */
  toTypeOn: () => Document | null
}

/**
 * The real page in a frame, at the width of a desktop, a tablet or a phone, made smaller only as far as the room demands. A block
 * that is pressed opens its settings; what is typed on the page stays there. A new version is loaded behind the one that is seen
 * and takes its place where one was.
 */
export function Preview({
  ref,
  page,
  version,
  title,
  open,
  typing,
  looking,
  hasGrounds,
  hasPhotos,
  hasButtons,
  onDraft,
  onLoaded,
  onPress,
}: {
  ref: Ref<PreviewHandle>
  page: string
  version: number
  title: string
  open: string | null
  /** The block that is being typed on the page: until that is done, it is not loaded anew. */
  typing: string | null
  /** An earlier version that is looked at instead of the draft. */
  looking: number | null
  /** Something lies behind blocks; it can be hidden while one types. */
  hasGrounds: boolean
  /** Photos stand on it; they can be looked at as if they were touched. */
  hasPhotos: boolean
  /** Visitors narrow it with buttons; how those look in every state can be shown. */
  hasButtons: boolean
  onDraft: () => void
  /** A version of the draft has taken its place in the frame. */
  onLoaded: () => void
  onPress: (block: string, typed: boolean) => void
}) {
  const room = useRef<HTMLDivElement>(null)
  const [chosen, setChosen] = useState<Width | 'all'>(1280)
  // What is typed stands on one page.
  const isAll = chosen === 'all' && typing === null && looking === null
  const width = chosen === 'all' ? 1280 : chosen
  const [bare, setBare] = useState(false)
  const [touched, setTouched] = useState(false)
  const [inStates, setInStates] = useState(false)
  const box = useBox(room)
  const fresh = `/preview/${page}?v=${version}`
  // What is seen, by its address, and the page that is typed on.
  const [seen, setSeen] = useState(fresh)
  const stands = useRef<Document | null>(null)
  /** The pages that stand in frames, seen or about to be. */
  const pages = useRef(new Set<Document>())
  useImperativeHandle(
    ref,
    () => ({
      toTypeOn: () => {
        setChosen((now) => (now === 'all' ? 1280 : now))
        // A frame that is gone leaves its page without a window.
        return stands.current?.defaultView ? stands.current : null
      },
    }),
    [],
  )

  /** The block whose settings are open is outlined on the page. */
  const outline = useCallback(
    (document: Document) => {
      for (const each of document.querySelectorAll<HTMLElement>('[data-block]')) {
        const on = each.dataset.block === open
        each.style.outline = on ? '2px solid oklch(0.46 0.15 350)' : ''
        each.style.outlineOffset = on ? '6px' : ''
        if (on) each.scrollIntoView({ block: 'nearest' })
      }
    },
    [open],
  )
  useEffect(() => {
    for (const document of pages.current) outline(document)
  }, [outline])

  const dress = useCallback(
    (document: Document) => {
      document.documentElement.classList.toggle('no-grounds', bare)
      document.documentElement.classList.toggle('touched', touched)
      showStates(document, inStates ? w.frames.states : null)
    },
    [bare, touched, inStates],
  )
  useEffect(() => {
    for (const document of pages.current) dress(document)
  }, [dress])

  function arrived(document: Document) {
    for (const gone of pages.current) if (!gone.defaultView) pages.current.delete(gone)
    pages.current.add(document)
    outline(document)
    dress(document)
    makePressable(document)
  }

  /** What is pressed on a page opens its settings instead of leading away. */
  function makePressable(document: Document) {
    document.addEventListener(
      'click',
      (e) => {
        const pressed = e.target
        // Elements of the frame are of the frame's own kind.
        const element = pressed && 'closest' in pressed ? (pressed as Element) : null
        if (!element || element.closest('.ProseMirror, [data-filter]')) return
        const block = element.closest<HTMLElement>('[data-block], [data-ground]')
        e.preventDefault()
        e.stopPropagation()
        const name = block?.dataset.block ?? block?.dataset.ground
        if (name) onPressed.current(name, block?.matches('.words, .heading') ?? false)
      },
      true,
    )
  }

  const onPressed = useRef(onPress)
  onPressed.current = onPress
  const scale = Math.min(1, box.width / width)
  return (
    <div className="flex min-h-[70vh] flex-col bg-well px-6 pt-5 pb-6">
      <WidthTabs
        label={w.pages.preview}
        names={w.pages.widths}
        all={w.pages.allWidths}
        width={isAll ? 'all' : width}
        onChoose={setChosen}
      >
        {hasButtons && (
          <Switch on={inStates} onPress={setInStates} words={[w.frames.inStates, w.frames.asTheyAre]} />
        )}
        {hasPhotos && (
          <Switch on={touched} onPress={setTouched} words={[w.frames.asTouched, w.frames.asUntouched]} />
        )}
        {hasGrounds && <Switch on={bare} onPress={setBare} words={[w.ground.hide, w.ground.show]} />}
      </WidthTabs>
      {looking !== null && <VersionBand page={page} number={looking} onDraft={onDraft} />}
      <div ref={room} className="min-h-0 flex-1 overflow-hidden">
        {isAll ? (
          <SideBySide address={fresh} title={title} box={box} onPage={arrived} />
        ) : (
          <PageFrame
            address={typing ? seen : fresh}
            title={title}
            width={width}
            height={box.height}
            scale={scale}
            onPage={arrived}
            onShown={(document, address) => {
              stands.current = document
              setSeen(address)
              onLoaded()
            }}
          >
            {looking !== null && (
              <iframe
                title={w.versions.looking(looking)}
                src={`/preview/${page}?version=${looking}`}
                className="absolute inset-0 z-10 origin-top-left border-0 bg-raised"
                style={{ width, height: box.height / scale, transform: `scale(${scale})` }}
              />
            )}
          </PageFrame>
        )}
      </div>
    </div>
  )
}
