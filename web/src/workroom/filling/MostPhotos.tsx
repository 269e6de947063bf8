import { w } from '../../words'

/** So many photos an album takes up, unless one says otherwise. */
export const usual = 500

/** The largest number of an album's photos. */
export function MostPhotos({ most, onSay }: { most: number; onSay?: (most: number) => void }) {
  return (
    <input
      name="most"
      key={most}
      type="number"
      min={1}
      max={50_000}
      required
      defaultValue={most}
      aria-label={w.albums.filling.most}
      className="min-w-10 border-b border-strong-line bg-transparent px-1 text-center tabular-nums [appearance:textfield] [field-sizing:content] focus:border-plum"
      onBlur={(e) => {
        const said = e.target.valueAsNumber
        if (!onSay || said === most) return
        if (e.target.checkValidity()) onSay(said)
        else e.target.value = String(most)
      }}
      onKeyDown={(e) => {
        if (onSay && e.key === 'Enter') e.currentTarget.blur()
      }}
    />
  )
}
