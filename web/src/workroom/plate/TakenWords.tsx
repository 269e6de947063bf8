import { useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { takenAt } from '../shell/format'

/** Minutes from UTC as +02:00. */
const zoned = (minutes: number) =>
  `${minutes < 0 ? '−' : '+'}${String(Math.floor(Math.abs(minutes) / 60)).padStart(2, '0')}:${String(Math.abs(minutes) % 60).padStart(2, '0')}`

/** Offsets that clocks on Earth have, minutes. */
const offsets = [
  -720, -660, -600, -570, -540, -480, -420, -360, -300, -240, -210, -180, -120, -60, 0, 60, 120, 180, 210,
  240, 270, 300, 330, 345, 360, 390, 420, 480, 525, 540, 570, 600, 630, 660, 720, 765, 780, 840,
]

/** When it was taken, pressed to be said anew. */
export function TakenWords({
  taken,
  offset,
  hasPosition,
  onSay,
  onPlace,
}: {
  taken: string | null
  offset: number | null
  hasPosition: boolean
  onSay: (taken: Api['PlateTaken']) => void
  /** Says where on Earth it was taken; with neither it is forgotten. */
  onPlace: (position: Api['PlatePosition']) => void
}) {
  return (
    <>
      <p>
        <span className="text-quiet">{w.plate.taken}</span>{' '}
        <TakenWord
          says={taken ? takenAt(taken) : w.plate.noDate}
          taken={taken}
          offset={offset}
          onSay={onSay}
        />
        {taken && offset !== null && <span className="text-quiet"> {zoned(offset)}</span>}
      </p>
      {hasPosition ? (
        <p>
          {w.plate.hasPosition}{' '}
          <Button look="word" onClick={() => onPlace({})}>
            {w.plate.forgetPosition}
          </Button>
        </p>
      ) : (
        <Position onPlace={onPlace} />
      )}
    </>
  )
}

/** Latitude and longitude as maps give them, in one line. */
function read(text: string): Api['PlatePosition'] | null {
  const numbers = text.match(/-?\d+(?:\.\d+)?/g)?.map(Number) ?? []
  const [latitude, longitude] = numbers
  if (numbers.length !== 2 || latitude === undefined || longitude === undefined) return null
  return Math.abs(latitude) <= 90 && Math.abs(longitude) <= 180 ? { latitude, longitude } : null
}

function Position({ onPlace }: { onPlace: (position: Api['PlatePosition']) => void }) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const said = read(typed)
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.plate.position}
      trigger={
        <button
          type="button"
          className="min-h-7 text-quiet underline decoration-strong-line decoration-1 underline-offset-4"
        >
          {w.plate.addPosition}
        </button>
      }
    >
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          if (!said) return
          onPlace(said)
          setOpen(false)
        }}
      >
        <label className="grid gap-1">
          <span className="text-small text-quiet">{w.plate.position}</span>
          <input
            className="border-b border-strong-line bg-transparent outline-none focus:border-plum"
            placeholder="54.2500, -3.5000"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        </label>
        <Button type="submit" look="next" className="justify-self-start" disabled={!said}>
          {w.plate.sayTaken}
        </Button>
      </form>
    </Popover>
  )
}

/** What is known of when it was taken, pressed to be said anew. */
export function TakenWord({ says, taken, offset, onSay }: { says: string } & FormProps) {
  const [open, setOpen] = useState(false)
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.plate.whenTaken}
      trigger={
        <button
          type="button"
          className="text-left underline decoration-strong-line decoration-1 underline-offset-4"
        >
          {says}
        </button>
      }
    >
      <TakenForm
        taken={taken}
        offset={offset}
        onSay={(said) => {
          onSay(said)
          setOpen(false)
        }}
      />
    </Popover>
  )
}

type FormProps = {
  taken: string | null
  offset: number | null
  onSay: (taken: Api['PlateTaken']) => void
}

/** A day, a time and, where it is known, how far its clock was from UTC. */
function TakenForm({ taken, offset, onSay }: FormProps) {
  const line = 'border-b border-strong-line bg-transparent outline-none focus:border-plum'
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        const form = new FormData(e.currentTarget)
        const away = String(form.get('away') ?? '')
        onSay({ local: String(form.get('when')), offset: away === '' ? null : Number(away) })
      }}
    >
      <label className="grid gap-1">
        <span className="text-small text-quiet">{w.plate.whenTaken}</span>
        <input
          type="datetime-local"
          step={1}
          name="when"
          required
          min="1826-01-01T00:00"
          max="2200-12-31T23:59"
          defaultValue={taken?.slice(0, 19)}
          className={line}
        />
      </label>
      <label className="grid gap-1">
        <span className="text-small text-quiet">{w.plate.fromUtc}</span>
        <select name="away" defaultValue={offset ?? ''} className={line}>
          <option value="">{w.plate.notKnown}</option>
          {offsets.map((minutes) => (
            <option key={minutes} value={minutes}>
              {zoned(minutes)}
            </option>
          ))}
        </select>
      </label>
      <Button type="submit" look="next" className="justify-self-start">
        {w.plate.sayTaken}
      </Button>
    </form>
  )
}
