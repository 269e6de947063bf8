import { type HTMLInputTypeAttribute, useId } from 'react'

/** A field of a form, set like a line to be filled in, with what is wrong with it. */
export function LineField({
  name,
  label,
  type = 'text',
  complete,
  fault,
}: {
  name: string
  label: string
  type?: HTMLInputTypeAttribute
  /** What a browser may fill in by itself. */
  complete: string
  fault?: string | undefined
}) {
  const id = useId()
  return (
    <label className="block">
      <span className="block text-small text-quiet">{label}</span>
      <input
        type={type}
        name={name}
        required
        autoComplete={complete}
        aria-invalid={!!fault}
        aria-describedby={fault ? id : undefined}
        className="w-full border-b border-strong-line bg-transparent py-1 outline-none focus:border-plum"
      />
      {fault && (
        <span id={id} className="block text-small font-semibold">
          {fault}
        </span>
      )}
    </label>
  )
}
