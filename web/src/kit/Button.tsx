import type { ButtonHTMLAttributes, ReactNode } from 'react'

/** A small sign of the key that does the same as the verb before it. */
export function KeyHint({ onPlum = false, children }: { onPlum?: boolean; children: ReactNode }) {
  return (
    <kbd
      className={`${typeof children === 'string' && children.length === 1 ? 'bare-key' : ''} ml-1.5 inline-block rounded-control border px-1 font-sans text-[0.6875rem] leading-4 ${onPlum ? 'border-on-plum/60' : 'border-line text-quiet'}`}
    >
      {children}
    </kbd>
  )
}

type Look = 'next' | 'plain' | 'word'

const looks: Record<Look, string> = {
  next: 'bg-plum text-on-plum px-4 py-1.5 font-semibold hover:brightness-110 disabled:bg-well disabled:text-quiet disabled:hover:brightness-100',
  plain: 'border border-strong-line px-3 py-1.5 hover:border-ink disabled:text-quiet disabled:border-line',
  word: 'underline decoration-strong-line decoration-1 underline-offset-[5px] hover:decoration-ink disabled:text-quiet disabled:no-underline',
}

/** What leads somewhere and stands among verbs looks like one. */
export const asWord = `rounded-control whitespace-nowrap ${looks.word}`

/** What gives a file stands like a button. */
export const asPlain = `inline-block rounded-control ${looks.plain}`

/** What leads to the thing to do next looks like it. */
export const asNext = 'inline-block rounded-control bg-plum px-4 py-1.5 font-semibold text-on-plum'

/** One of a few words to choose among; the chosen one is said to be so. */
export function Choice({
  on,
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { on: boolean }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={`min-h-6 whitespace-nowrap underline decoration-1 underline-offset-[5px] ${on ? 'font-semibold text-plum decoration-plum' : 'decoration-strong-line hover:decoration-ink'} ${className}`}
      {...rest}
    />
  )
}

/** A button: the thing to do next, a plain one, or a verb set as a word. */
export function Button({
  look = 'plain',
  hint,
  className = '',
  children,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { look?: Look; hint?: string }) {
  return (
    <button
      type="button"
      className={`rounded-control whitespace-nowrap disabled:cursor-default ${looks[look]} ${className}`}
      {...rest}
    >
      {children}
      {hint && <KeyHint onPlum={look === 'next' && !rest.disabled}>{hint}</KeyHint>}
    </button>
  )
}
