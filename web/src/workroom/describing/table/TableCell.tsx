import { useEffect, useRef } from 'react'

/** Where one goes on from a cell. */
export type Leave = 'down' | 'right' | 'left' | 'stay' | 'drop'

/** The cell that is typed in. */
export function TableCell({
  label,
  text,
  onType,
  onLeave,
}: {
  label: string
  text: string
  onType: (text: string) => void
  onLeave: (to: Leave) => void
}) {
  const field = useRef<HTMLTextAreaElement>(null)
  useEffect(() => {
    const it = field.current
    it?.focus()
    it?.setSelectionRange(it.value.length, it.value.length)
  }, [])
  return (
    <textarea
      ref={field}
      aria-label={label}
      className="absolute inset-0 resize-none bg-raised px-2 py-1 leading-[1.35] outline-2 -outline-offset-2 outline-plum"
      value={text}
      onChange={(e) => onType(e.target.value)}
      onBlur={() => onLeave('stay')}
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key === 'Enter' && !e.shiftKey) onLeave('down')
        else if (e.key === 'Tab') onLeave(e.shiftKey ? 'left' : 'right')
        else if (e.key === 'Escape') onLeave('drop')
        else return
        e.preventDefault()
      }}
    />
  )
}
