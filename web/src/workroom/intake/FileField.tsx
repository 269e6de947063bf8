import { type Brought, fromField } from './brought'

/** The field behind a button: browsers choose files in no other way. */
export function FileField({
  field,
  label,
  onBring,
  folder = false,
}: {
  field: React.RefObject<HTMLInputElement | null>
  label: string
  onBring: (brought: Brought[]) => void
  folder?: boolean
}) {
  return (
    <input
      ref={field}
      type="file"
      multiple
      {...(folder && { webkitdirectory: '' })}
      aria-label={label}
      className="sr-only"
      tabIndex={-1}
      onChange={(e) => {
        // Copied at once: the list empties when the field is cleared.
        const brought = fromField(e.target.files)
        e.target.value = ''
        void onBring(brought)
      }}
    />
  )
}
