import { useState } from 'react'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useFigures, useSession } from '../shell/data'
import { useHand } from '../shell/hand'

const edges = [1200, 1600, 2560, 3840] as const
const line = 'border-b border-strong-line bg-transparent outline-none focus:border-plum'

/** Saves what is in hand on this computer, as one ZIP with the words in every file. */
export function SaveCopies({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const { count } = useHand()
  const all = useFigures().data?.photos
  const owner = useSession().data?.role === 'owner'
  const [form, setForm] = useState<'originals' | 'smaller'>('originals')
  const [edge, setEdge] = useState('2560')
  const [quality, setQuality] = useState('85')
  const [position, setPosition] = useState(false)
  const query = new URLSearchParams({
    ...(form === 'smaller' && { edge, quality }),
    ...(position && { position: 'true' }),
  })
  return (
    <Popover
      open={open}
      onOpenChange={onOpenChange}
      label={w.leaving.verb}
      wide
      trigger={
        <Button look="word" hint="S">
          {w.leaving.verb}
        </Button>
      }
    >
      <p className="font-semibold">{w.leaving.leave(count, all)}</p>
      <fieldset className="mt-3 grid gap-2">
        {(['originals', 'smaller'] as const).map((f) => (
          <label key={f} className="flex items-baseline gap-2">
            <input
              type="radio"
              name="form"
              className="accent-plum"
              checked={form === f}
              onChange={() => setForm(f)}
            />
            <span>
              {w.leaving.forms[f]} <span className="block text-small text-quiet">{w.leaving.of[f]}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {form === 'smaller' && (
        <div className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-2 pl-6 text-small">
          <label className="flex items-baseline gap-2">
            {w.leaving.edge}
            <select className={line} value={edge} onChange={(e) => setEdge(e.target.value)}>
              {edges.map((pixels) => (
                <option key={pixels} value={pixels}>
                  {w.leaving.pixels(pixels)}
                </option>
              ))}
            </select>
          </label>
          <label className="flex items-baseline gap-2">
            {w.leaving.quality}
            <select className={line} value={quality} onChange={(e) => setQuality(e.target.value)}>
              {w.leaving.qualities.map(([value, name]) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      <p className="mt-4 border-t border-line pt-3 text-small text-quiet">{w.leaving.words}</p>
      {owner ? (
        <label className="mt-2 flex items-baseline gap-2 text-small">
          <input
            type="checkbox"
            className="accent-plum"
            checked={position}
            onChange={(e) => setPosition(e.target.checked)}
          />
          {w.leaving.position}
        </label>
      ) : (
        <p className="mt-2 text-small text-quiet">{w.leaving.noPosition}</p>
      )}
      <a
        href={`/api/hand/download?${query}`}
        download
        className="mt-4 inline-block rounded-control bg-plum px-4 py-1.5 font-semibold text-on-plum hover:brightness-110"
        onClick={() => onOpenChange(false)}
      >
        {w.leaving.save}
      </a>
    </Popover>
  )
}
