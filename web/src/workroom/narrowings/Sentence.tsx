import { Link } from '@tanstack/react-router'
import { type ReactNode, useState } from 'react'
import { w } from '../../words'
import { useKeys } from '../shell/keys'
import { Choices } from './Choices'
import { KeepIt } from './KeepIt'
import {
  isNarrowed,
  type Kind,
  kinds,
  type NarrowingSearch,
  narrowingOf,
  nothing,
  type Part,
  partsOf,
  turned,
} from './narrowing'
import { partWords } from './says'
import { useCounts } from './useCounts'

/** What can be done with the sentence, behind it. */
export const aside =
  'font-sans text-body font-normal text-quiet underline decoration-strong-line decoration-1 underline-offset-[6px] hover:text-ink hover:decoration-ink'

const said = (total: number, search: NarrowingSearch, inBin: boolean) =>
  !inBin
    ? w.narrowing.photos(total)
    : isNarrowed(search)
      ? w.narrowing.binned(total)
      : w.narrowing.allBinned(total)

type Open = { kind: Kind; not: boolean } | null

/** What the sheet is narrowed to, read as one sentence; each part is pressed to change it, its choices open in place. */
export function Sentence({
  search,
  total,
  inBin = false,
  children,
  onChange,
}: {
  search: NarrowingSearch
  total: number | undefined
  /** It is said of what lies in the bin. */
  inBin?: boolean
  /** What else can be done with what is found. */
  children?: ReactNode
  onChange: (next: NarrowingSearch) => void
}) {
  const [open, setOpen] = useState<Open>(null)
  const parts = partsOf(search)
  const counts = useCounts(search, open !== null || isNarrowed(search), inBin)
  const begin = () => setOpen(open === null ? { kind: 'taken', not: false } : null)
  useKeys({ n: begin })
  const isOpen = (part: { kind: Kind; not: boolean }) => open?.kind === part.kind && open.not === part.not
  const shown: Part | null = open && (parts.find(isOpen) ?? { ...open, choices: [] })
  // What is open and says nothing yet stands in the sentence as what it would begin with.
  const all = shown && shown.choices.length === 0 ? [...parts, shown] : parts
  return (
    // biome-ignore lint/a11y/useSemanticElements: what is grouped reads as a sentence; a fieldset would break its flow.
    <div
      role="group"
      aria-label={w.narrowing.label}
      className="mt-3"
      onKeyDown={(e) => {
        if (e.key !== 'Escape' || open === null) return
        e.stopPropagation()
        setOpen(null)
      }}
    >
      <p className="font-display text-lead leading-[1.75] font-semibold" aria-live="polite">
        {total === undefined ? ' ' : said(total, search, inBin)}
        {search.q && <span> {w.narrowing.saying(search.q)}</span>}
        {all.map((part, i) => (
          <span key={`${part.kind}${part.not}`}>
            {i > 0 || search.q ? ', ' : ' '}
            <button
              type="button"
              aria-expanded={isOpen(part)}
              onClick={() => setOpen(isOpen(part) ? null : part)}
              className={`text-left underline decoration-2 underline-offset-[6px] ${isOpen(part) ? 'text-plum decoration-plum' : 'decoration-strong-line hover:decoration-ink'}`}
            >
              {part.choices.length > 0 ? partWords(part, counts.nameOf) : w.narrowing.begins[part.kind]}
            </button>
          </span>
        ))}
        {total !== undefined && (all.length > parts.length ? ' ' : isNarrowed(search) ? '. ' : ', ')}
        {open === null && (
          <button type="button" aria-expanded={false} onClick={begin} className={aside}>
            {isNarrowed(search) ? w.narrowing.and : w.narrowing.narrow}
          </button>
        )}
        {isNarrowed(search) && total !== 0 && (
          <button
            type="button"
            onClick={() => {
              setOpen(null)
              onChange(nothing)
            }}
            className={`ml-4 ${aside}`}
          >
            {inBin ? w.bin.widen : w.sheet.widen}
          </button>
        )}
        {isNarrowed(search) && open === null && !inBin && <KeepIt search={search} />}
        {isNarrowed(search) && open === null && !inBin && counts.inBin > 0 && (
          <Link to="/workroom/bin" search={narrowingOf(search)} className={`ml-4 ${aside}`}>
            {w.narrowing.inBin(counts.inBin)}
          </Link>
        )}
        {open === null && (inBin || !!total) && children}
      </p>
      {shown && (
        <div className="mt-1.5 border-t-[3px] border-plum pt-2">
          <ul className="flex flex-wrap gap-x-4 text-small">
            {kinds.map((kind) => (
              <li key={kind}>
                <button
                  type="button"
                  aria-current={kind === shown.kind}
                  className={`min-h-6 ${kind === shown.kind ? 'font-semibold text-plum' : 'text-quiet hover:text-ink'}`}
                  onClick={() =>
                    setOpen({
                      kind,
                      not:
                        parts.some((p) => p.kind === kind && p.not) &&
                        !parts.some((p) => p.kind === kind && !p.not),
                    })
                  }
                >
                  {w.narrowing.kinds[kind]}
                </button>
              </li>
            ))}
            <li className="ml-auto">
              <button
                type="button"
                className="min-h-6 underline decoration-strong-line decoration-1 underline-offset-4 hover:decoration-ink"
                onClick={() => setOpen(null)}
              >
                {w.narrowing.done}
              </button>
            </li>
          </ul>
          <Choices
            key={`${shown.kind}${shown.not}`}
            part={shown}
            choices={counts.of(shown.kind)}
            onChange={onChange}
            onTurn={() => {
              onChange(turned(shown))
              setOpen({ kind: shown.kind, not: !shown.not })
            }}
          />
        </div>
      )}
    </div>
  )
}
