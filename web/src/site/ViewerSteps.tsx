import { useEffect, useState } from 'react'
import { w } from '../words/site'
import { copy } from './copy'

/** So long it is said that the link was copied, milliseconds. */
const told = 2000

/** Which photo of how many it is, and what can be done with it. */
export function ViewerSteps({
  place,
  of,
  plays,
  larger,
  save,
  onPlay,
  onLarger,
  onStep,
  onClose,
}: {
  /** From 0. */
  place: number
  of: number
  /** They follow each other by themselves. */
  plays: boolean
  /** It is shown larger than whole. */
  larger: boolean
  /** Where it is saved from; nothing where it may not. */
  save: string | undefined
  onPlay: () => void
  onLarger: () => void
  onStep: (by: number) => void
  onClose: () => void
}) {
  const [copied, setCopied] = useState(false)
  useEffect(() => {
    if (!copied) return
    const over = setTimeout(() => setCopied(false), told)
    return () => clearTimeout(over)
  }, [copied])
  const last = of - 1
  return (
    <div className="viewer-steps">
      <span className="count">{w.of(place + 1, of)}</span>
      <span className="viewer-verbs">
        {last > 0 && (
          <button type="button" disabled={place >= last} onClick={onPlay}>
            {plays ? w.stop : w.play}
          </button>
        )}
        <button type="button" onClick={onLarger}>
          {larger ? w.whole : w.larger}
        </button>
        <button type="button" onClick={() => void copy(location.href).then(setCopied)}>
          {copied ? w.copied : w.copyLink}
        </button>
        {save && (
          <a href={save} download>
            {w.save}
          </a>
        )}
      </span>
      <button type="button" aria-label={w.previous} disabled={place <= 0} onClick={() => onStep(-1)}>
        ←
      </button>
      <button type="button" aria-label={w.next} disabled={place >= last} onClick={() => onStep(1)}>
        →
      </button>
      <button type="button" className="viewer-close" onClick={onClose}>
        {w.close}
      </button>
    </div>
  )
}
