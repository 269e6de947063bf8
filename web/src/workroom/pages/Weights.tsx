import { useState } from 'react'
import type { Api } from '../../api/client'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'

const words = w.pages.weights

/** What the page weighs and how long visitors wait for it, in one line; pressed, on every device and line. */
export function Weights({ weights }: { weights: Api['PageNotes']['weights'] }) {
  const [open, setOpen] = useState(false)
  const phone = weights.find((weight) => weight.device === 'phone')
  if (!phone) return null
  const line = words.line(words.bytes(phone.first), words.seconds(phone.firstSeconds[0] ?? 0))
  return (
    <p className="mt-5 text-small">
      <Popover
        wide
        open={open}
        onOpenChange={setOpen}
        label={words.label}
        trigger={
          <button
            type="button"
            className="text-left text-quiet underline decoration-strong-line decoration-1 underline-offset-[5px] hover:text-ink hover:decoration-ink"
          >
            {line}
          </button>
        }
      >
        <table className="w-full text-small tabular-nums">
          <thead>
            <tr className="text-left text-quiet">
              <th className="pr-4 pb-1 font-normal" colSpan={2}>
                <span className="sr-only">{words.label}</span>
              </th>
              {words.lines.map((name) => (
                <th key={name} scope="col" className="pb-1 pl-4 text-right font-normal whitespace-nowrap">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          {weights.map((weight) => (
            <tbody key={weight.device} className="border-t border-line">
              <tr>
                <th scope="rowgroup" colSpan={5} className="pt-2 text-left font-semibold">
                  {words.device} {words.devices[weight.device]}
                </th>
              </tr>
              <Row name={words.first} bytes={weight.first} seconds={weight.firstSeconds} />
              <Row name={words.all} bytes={weight.all} seconds={weight.allSeconds} last />
            </tbody>
          ))}
        </table>
        <p className="mt-3 max-w-[52ch] text-small text-quiet">{words.note}</p>
      </Popover>
    </p>
  )
}

function Row({
  name,
  bytes,
  seconds,
  last = false,
}: {
  name: string
  bytes: number
  seconds: readonly number[]
  last?: boolean
}) {
  const space = last ? 'pb-2' : ''
  return (
    <tr>
      <th scope="row" className={`pr-4 text-left font-normal whitespace-nowrap ${space}`}>
        {name}
      </th>
      <td className={`text-right font-semibold whitespace-nowrap ${space}`}>{words.bytes(bytes)}</td>
      {seconds.map((s, i) => (
        <td key={words.lines[i]} className={`pl-4 text-right whitespace-nowrap ${space}`}>
          {words.seconds(s)}
        </td>
      ))}
    </tr>
  )
}
