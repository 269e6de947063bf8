import { useLayoutEffect, useRef, useState } from 'react'
import { w } from '../../words'

const widths = [1280, 820, 390] as const

/** The real page in a frame, at the width of a desktop, a tablet or a phone, made smaller only as far as the room demands. */
export function Preview({ page, version, title }: { page: string; version: string; title: string }) {
  const room = useRef<HTMLDivElement>(null)
  const [which, setWhich] = useState(0)
  const [box, setBox] = useState({ width: 900, height: 700 })
  useLayoutEffect(() => {
    const element = room.current
    if (!element) return
    const watch = new ResizeObserver(() =>
      setBox({ width: element.clientWidth, height: element.clientHeight }),
    )
    watch.observe(element)
    return () => watch.disconnect()
  }, [])
  const width = widths[which] ?? 1280
  const scale = Math.min(1, box.width / width)
  return (
    <div className="flex min-h-[70vh] flex-col bg-well px-6 pt-5 pb-6">
      <fieldset className="mb-3 flex gap-5 text-small" aria-label={w.pages.preview}>
        {w.pages.widths.map((name, i) => (
          <button
            key={name}
            type="button"
            aria-pressed={i === which}
            className={
              i === which
                ? 'font-bold underline decoration-plum decoration-2 underline-offset-[6px]'
                : 'text-quiet hover:text-ink'
            }
            onClick={() => setWhich(i)}
          >
            {name} <span className="tabular-nums">{widths[i]}</span>
          </button>
        ))}
      </fieldset>
      <div ref={room} className="min-h-0 flex-1 overflow-hidden">
        <div
          style={{ width: width * scale, height: box.height }}
          className="mx-auto overflow-hidden shadow-float"
        >
          <iframe
            key={version}
            title={`${w.pages.preview}: ${title}`}
            src={`/preview/${page}?v=${version}`}
            className="origin-top-left border-0 bg-raised"
            style={{ width, height: box.height / scale, transform: `scale(${scale})` }}
          />
        </div>
      </div>
    </div>
  )
}
