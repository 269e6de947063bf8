/** A thing named in a sentence; pressed, it is taken away. */
export function Named({ name, label, onRemove }: { name: string; label: string; onRemove: () => void }) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      className="font-semibold underline decoration-strong-line decoration-1 underline-offset-[5px] hover:line-through"
      onClick={onRemove}
    >
      {name}
    </button>
  )
}
