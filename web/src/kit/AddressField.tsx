/** The last part of an address, typed where it stands in a sentence; Escape leaves it as it was. */
export function AddressField({
  before,
  address,
  label,
  onSay,
}: {
  /** What stands before it, from the site's root. */
  before: string
  address: string
  label: string
  onSay: (address: string) => void
}) {
  return (
    <label className="flex items-baseline">
      {before}
      <input
        key={address}
        defaultValue={address}
        aria-label={label}
        className="min-w-8 border-b border-strong-line bg-transparent outline-none [field-sizing:content] focus:border-plum"
        onBlur={(e) => {
          const said = e.target.value.trim()
          if (!said) e.target.value = address
          else if (said !== address) onSay(said)
        }}
        onKeyDown={(e) => {
          if (e.key === 'Escape') e.currentTarget.value = address
          if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur()
        }}
      />
    </label>
  )
}
