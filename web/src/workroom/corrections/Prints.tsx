import { useEffect, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { tellDone, tellProblem } from '../shell/news'

const away = w.errors.away

/** The prints that lie on a scan, and which of them are to be cut out. */
export function usePrints(photo: string, onCut: (photos: readonly string[]) => void) {
  const [found, setFound] = useState<readonly Api['PrintSaid'][] | null>(null)
  const [out, setOut] = useState<ReadonlySet<number>>(new Set())
  const [isLooking, setLooking] = useState(false)
  const [isNone, setNone] = useState(false)
  // biome-ignore lint/correctness/useExhaustiveDependencies: what was found belongs to the photo before
  useEffect(() => {
    setFound(null)
    setNone(false)
  }, [photo])
  const cut = useAct(
    async (prints: readonly Api['PrintSaid'][]) =>
      body(
        api.POST('/api/photos/{photo}/prints', {
          params: { path: { photo } },
          body: { prints: prints.map(({ angle, crop }) => ({ angle, crop })) },
        }),
        away,
      ),
    ({ photos, done }) => {
      setFound(null)
      tellDone(w.correct.cutDone(photos.length), done)
      if (photos.length > 0) onCut(photos)
    },
  )
  async function look() {
    setLooking(true)
    try {
      const { prints } = await body(
        api.GET('/api/photos/{photo}/prints', { params: { path: { photo } } }),
        away,
      )
      setOut(new Set())
      setFound(prints.length > 0 ? prints : null)
      setNone(prints.length === 0)
    } catch (problem) {
      tellProblem(problem)
    }
    setLooking(false)
  }
  return {
    found,
    isOut: (n: number) => out.has(n),
    toggle: (n: number) => setOut(new Set(out.has(n) ? [...out].filter((o) => o !== n) : [...out, n])),
    chosen: (found ?? []).filter((_, n) => !out.has(n)),
    look: () => void look(),
    isLooking,
    isNone,
    leave: () => setFound(null),
    cut: (prints: readonly Api['PrintSaid'][]) => cut.mutate(prints),
    isCutting: cut.isPending,
  }
}

type Prints = ReturnType<typeof usePrints>

/** Where the prints lie, over the scan as it came in; pressed, one is left out or taken again. */
export function PrintOutlines({ prints }: { prints: Prints }) {
  return (
    <svg
      viewBox="0 0 1 1"
      preserveAspectRatio="none"
      className="absolute inset-0 size-full overflow-visible"
      aria-hidden
    >
      {prints.found?.map((print, n) => {
        const corners = print.corners.map((c) => `${c.x},${c.y}`).join(' ')
        const isOut = prints.isOut(n)
        return (
          <g key={corners} className="cursor-pointer" onPointerDown={() => prints.toggle(n)}>
            <polygon
              points={corners}
              fill={isOut ? 'color-mix(in oklab, var(--paper) 70%, transparent)' : 'transparent'}
              stroke="white"
              strokeWidth="4"
              vectorEffect="non-scaling-stroke"
            />
            <polygon
              points={corners}
              fill="none"
              stroke={isOut ? 'var(--strong-line)' : 'var(--plum)'}
              strokeWidth="2"
              strokeDasharray={isOut ? '5 5' : undefined}
              vectorEffect="non-scaling-stroke"
            />
          </g>
        )
      })}
    </svg>
  )
}

/** What lies on the glass, to be made photos of their own. */
export function PrintsPart({ prints }: { prints: Prints }) {
  const { found, chosen } = prints
  return (
    <section className="mt-3 border-t border-line pt-3" aria-label={w.correct.look}>
      <p className="font-display font-semibold text-plum">{w.correct.found(found?.length ?? 0)}</p>
      <p className="mt-1 text-small text-quiet">{w.correct.foundLead}</p>
      <p className="mt-3 flex flex-wrap gap-x-4 gap-y-1 text-small">
        {found?.map((print, n) => (
          <button
            key={print.corners.map((c) => c.x).join()}
            type="button"
            aria-pressed={!prints.isOut(n)}
            className={`min-h-6 underline decoration-1 underline-offset-[5px] ${prints.isOut(n) ? 'text-quiet line-through decoration-strong-line' : 'font-semibold decoration-plum'}`}
            onClick={() => prints.toggle(n)}
          >
            {w.correct.print(n + 1)}
          </button>
        ))}
      </p>
      <div className="mt-4 flex items-baseline gap-5">
        <Button
          look="next"
          disabled={chosen.length === 0 || prints.isCutting}
          onClick={() => prints.cut(chosen)}
        >
          {w.correct.cut(chosen.length)}
        </Button>
        <Button look="word" hint="Esc" className="text-small" onClick={prints.leave}>
          {w.correct.leaveWhole}
        </Button>
      </div>
    </section>
  )
}
