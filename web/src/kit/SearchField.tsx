/** Where one types what is looked for while one types. */
export function SearchField({
  label,
  value,
  onType,
  className = '',
}: {
  label: string
  value: string
  onType: (text: string) => void
  className?: string
}) {
  return (
    <input
      type="search"
      aria-label={label}
      placeholder={label}
      value={value}
      onChange={(e) => onType(e.target.value)}
      className={`w-52 border-b border-strong-line bg-transparent pb-1 outline-none focus:border-plum ${className}`}
    />
  )
}
