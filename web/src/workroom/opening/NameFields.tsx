import { w } from '../../words'
import { useSession } from '../shell/data'
import type { WorkedFront } from './useFront'

/** What the site is called and the sentence beneath it, typed where they stand. */
export function NameFields({ work, disabled = false }: { work: WorkedFront; disabled?: boolean }) {
  const bounds = useSession().data?.bounds
  const fields = [
    ['title', w.opening.name, bounds?.longestTitle, 'font-display text-[1.625rem] leading-[1.15] font-[650]'],
    ['tagline', w.opening.tagline, bounds?.longestTagline, 'mt-1'],
  ] as const
  return fields.map(([field, label, longest, className]) => (
    <div key={field}>
      <textarea
        rows={1}
        aria-label={label}
        aria-invalid={!!work.faults[field]}
        className={`in-place ${className}`}
        placeholder={label}
        maxLength={longest}
        disabled={disabled}
        value={work.front[field]}
        onChange={(e) => work.say({ [field]: e.target.value.replaceAll('\n', ' ') })}
      />
      {work.faults[field] && <p className="text-small font-semibold">{work.faults[field]}</p>}
    </div>
  ))
}
