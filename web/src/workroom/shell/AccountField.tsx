import { useId } from 'react'

/** What is known of one's account. */
export const accountKey = ['account']

/** A field of the account, with what is wrong with it. */
export function AccountField({
  name,
  label,
  complete,
  shown = false,
  fault,
}: {
  name: string
  label: string
  /** What a browser may fill in by itself. */
  complete: string
  /** It is no secret while one types it. */
  shown?: boolean
  fault?: string | undefined
}) {
  const id = useId()
  return (
    <label className="block">
      <span className="block text-small text-quiet">{label}</span>
      <input
        type={shown ? 'text' : 'password'}
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
