import { RadioGroup } from 'radix-ui'
import { w } from '../../words'
import type { Watermark } from './useWatermark'

type Place = Watermark['place']

const once = [
  'topLeft',
  'top',
  'topRight',
  'left',
  'middle',
  'right',
  'bottomLeft',
  'bottom',
  'bottomRight',
] as const

/** Where a watermark stands, on a small photo: pressed where it is to be, or all over. */
export function WatermarkPlace({ place, onSay }: { place: Place; onSay: (place: Place) => void }) {
  const allOver = place === 'allOver'
  return (
    <div className="mt-5 flex items-end gap-4">
      <RadioGroup.Root
        aria-label={w.watermark.place}
        value={place}
        onValueChange={(next) => onSay(next as Place)}
        className="flex items-end gap-3"
      >
        <span className="grid h-[90px] w-[135px] grid-cols-3 border border-strong-line bg-well">
          {once.map((where) => (
            <Spot key={where} where={where} on={place === where} />
          ))}
        </span>
        <RadioGroup.Item
          value="allOver"
          aria-label={w.watermark.places.allOver}
          title={w.watermark.places.allOver}
          className={`grid h-[90px] w-[60px] rotate-0 grid-cols-2 place-items-center overflow-hidden border bg-well ${allOver ? 'border-plum' : 'border-strong-line hover:border-ink'}`}
        >
          {[...'abcdefgh'].map((n) => (
            <span
              key={n}
              aria-hidden
              className={`block h-1 w-4 -rotate-[30deg] ${allOver ? 'bg-plum' : 'bg-strong-line'}`}
            />
          ))}
        </RadioGroup.Item>
      </RadioGroup.Root>
      <p className="text-small">
        <span className="block text-quiet">{w.watermark.stands}</span>
        {w.watermark.places[place]}
      </p>
    </div>
  )
}

function Spot({ where, on }: { where: (typeof once)[number]; on: boolean }) {
  const [column, row] = [once.indexOf(where) % 3, Math.floor(once.indexOf(where) / 3)]
  return (
    <RadioGroup.Item
      value={where}
      aria-label={w.watermark.places[where]}
      title={w.watermark.places[where]}
      className={`group flex p-1.5 ${['items-start', 'items-center', 'items-end'][row]} ${['justify-start', 'justify-center', 'justify-end'][column]}`}
    >
      <span
        aria-hidden
        className={`block h-1.5 w-6 ${on ? 'bg-plum' : 'bg-strong-line group-hover:bg-ink'}`}
      />
    </RadioGroup.Item>
  )
}
