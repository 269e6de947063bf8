import { w } from '../../words'
import { useSession } from '../shell/data'
import type { WorkedFront } from './useFront'

/** What the site is called and the sentence beneath it, typed where they stand. */
export function NameFields({ work, disabled = false }: { work: WorkedFront; disabled?: boolean }) {
  const bounds = useSession().data?.bounds
  const line = (text: string) => text.replaceAll('\n', ' ')
  return (
    <>
      <textarea
        rows={1}
        aria-label={w.opening.name}
        aria-invalid={!!work.faults.title}
        className="in-place font-display text-[1.625rem] leading-[1.15] font-[650]"
        placeholder={w.opening.name}
        maxLength={bounds?.longestTitle}
        disabled={disabled}
        value={work.front.title}
        onChange={(e) => work.say({ title: line(e.target.value) })}
      />
      {work.faults.title && <p className="text-small font-semibold">{work.faults.title}</p>}
      <textarea
        rows={1}
        aria-label={w.opening.tagline}
        className="in-place mt-1"
        placeholder={w.opening.tagline}
        maxLength={bounds?.longestTagline}
        disabled={disabled}
        value={work.front.tagline}
        onChange={(e) => work.say({ tagline: line(e.target.value) })}
      />
      {work.faults.tagline && <p className="text-small font-semibold">{work.faults.tagline}</p>}
    </>
  )
}
