import type { Api } from '../../../api/client'

type Grade = NonNullable<Api['FitCell']['grade']>

/** How much of the mark is filled: the larger the photo for the paper, the higher. */
const filled: Record<Grade, number> = { good: 1, fair: 0.6, poor: 0.25, tooSmall: 0 }

/** A sheet of paper filled as far as a photo's pixels go; struck through where it is not sold. */
export function FitMark({ grade, off = false }: { grade: Grade | null; off?: boolean }) {
  const part = grade ? filled[grade] : 0
  return (
    <svg
      viewBox="0 0 14 18"
      width="14"
      height="18"
      aria-hidden
      className={`shrink-0 ${off ? 'text-quiet' : 'text-plum'}`}
    >
      {part > 0 && (
        <rect
          x="1"
          y={1 + 16 * (1 - part)}
          width="12"
          height={16 * part}
          fill="currentColor"
          opacity={off ? 0.35 : 1}
        />
      )}
      <rect
        x="1"
        y="1"
        width="12"
        height="16"
        fill="none"
        stroke="currentColor"
        strokeWidth="1.4"
        strokeDasharray={grade === 'tooSmall' ? '2 2' : undefined}
      />
      {grade === null && !off && <circle cx="7" cy="9" r="2" fill="currentColor" />}
      {off && <path d="M0 17 L14 1" stroke="currentColor" strokeWidth="1.6" />}
    </svg>
  )
}
