import { w } from '../../../words'
import type { Block, BlockOf } from './blocks'

const lines = [
  ['name', 120, 'text'],
  ['phone', 40, 'tel'],
  ['mail', 254, 'email'],
] as const

/** How visitors reach somebody; what is left empty does not stand there. */
export function ContactSettings({
  block,
  onSay,
}: {
  block: BlockOf<'contact'>
  onSay: (block: Block) => void
}) {
  const [name, ...reach] = lines.map(([field, most, type]) => (
    <label key={field} className="grid grid-cols-[6.5rem_minmax(0,1fr)] items-baseline">
      <span className="text-quiet">{w.contact[field]}</span>
      <input
        type={type}
        value={block[field]}
        maxLength={most}
        className="in-place"
        onChange={(e) => onSay({ ...block, [field]: e.target.value })}
      />
    </label>
  ))
  return (
    <div className="grid gap-1">
      {name}
      <label className="grid grid-cols-[6.5rem_minmax(0,1fr)] items-baseline">
        <span className="text-quiet">{w.contact.where}</span>
        <textarea
          rows={2}
          value={block.where}
          maxLength={500}
          className="in-place"
          onChange={(e) => onSay({ ...block, where: e.target.value })}
        />
      </label>
      {reach}
    </div>
  )
}
