import type { Api } from '../../api/client'
import { w } from '../../words'
import { useSession } from '../shell/data'

type Layout = Api['LayoutSettings']
const kinds = ['rows', 'columns', 'grid'] as const

/** Small drawings of how photos stand: x, y, width, height in a box of 44 by 30. */
const drawings: Record<(typeof kinds)[number], readonly (readonly [number, number, number, number])[]> = {
  rows: [
    [0, 0, 17, 9],
    [18, 0, 9, 9],
    [28, 0, 16, 9],
    [0, 10, 9, 9],
    [10, 10, 20, 9],
    [31, 10, 13, 9],
    [0, 20, 15, 9],
    [16, 20, 18, 9],
  ],
  columns: [
    [0, 0, 14, 11],
    [0, 12, 14, 17],
    [15, 0, 14, 18],
    [15, 19, 14, 10],
    [30, 0, 14, 8],
    [30, 9, 14, 20],
  ],
  grid: [
    [0, 0, 14, 9],
    [15, 0, 14, 9],
    [30, 0, 14, 9],
    [0, 10, 14, 9],
    [15, 10, 14, 9],
    [30, 10, 14, 9],
    [0, 20, 14, 9],
    [15, 20, 14, 9],
  ],
}

/** Which layout, how large, how far apart. */
export function LayoutSettings({ layout, onChange }: { layout: Layout; onChange: (layout: Layout) => void }) {
  const bounds = useSession().data?.bounds
  return (
    <fieldset className="mt-4 border-t border-line pt-3.5 text-small">
      <legend className="sr-only">{w.pages.layout}</legend>
      <div className="grid grid-cols-3 gap-3">
        {kinds.map((kind) => {
          const on = layout.kind === kind
          return (
            <button
              key={kind}
              type="button"
              aria-pressed={on}
              title={w.pages.layoutHints[kind]}
              className={`text-left ${on ? 'font-bold' : 'text-quiet hover:text-ink'}`}
              onClick={() => onChange({ ...layout, kind })}
            >
              <svg
                viewBox="0 0 44 29"
                className={`mb-1.5 w-full ${on ? 'fill-plum' : 'fill-[var(--strong-line)]'}`}
                aria-hidden="true"
              >
                {drawings[kind].map(([x, y, width, height]) => (
                  <rect key={`${x}-${y}`} x={x} y={y} width={width} height={height} />
                ))}
              </svg>
              {w.pages.layouts[kind]}
            </button>
          )
        })}
      </div>
      <p className="mt-1 text-quiet">{w.pages.layoutHints[layout.kind]}</p>
      {(bounds
        ? ([
            ['size', w.pages.size, bounds.smallestSize, bounds.largestSize, 10],
            ['gap', w.pages.gap, 0, bounds.largestGap, 1],
          ] as const)
        : []
      ).map(([name, label, min, max, step]) => (
        <label key={name} className="mt-2.5 grid grid-cols-[5.5rem_minmax(0,1fr)_3.5rem] items-center gap-2">
          <span className="text-quiet">{label}</span>
          <input
            type="range"
            className="range"
            min={min}
            max={max}
            step={step}
            value={layout[name]}
            onChange={(e) => onChange({ ...layout, [name]: Number(e.target.value) })}
          />
          <span className="text-right tabular-nums">{layout[name]} px</span>
        </label>
      ))}
    </fieldset>
  )
}
