import { useState } from 'react'
import type { Api } from '../../../api/client'
import { w } from '../../../words'
import { FitAbout } from './FitAbout'
import { FitMark } from './FitMark'
import { FitPopover } from './FitPopover'

type Cell = Api['FitCell']

/** What becomes of the picture, in short: for who reads the list with their ears, and what stands beside the mark. */
function inWords(cell: Cell) {
  const grade = cell.grade ? w.fit.grades[cell.grade] : cell.why === 'no' ? w.fit.offered : ''
  const lost = cell.lost !== null && cell.lost >= 0.005 ? w.fit.lost(cell.lost) : ''
  return [grade, lost, w.fit.why[cell.why]].filter(Boolean).join(', ')
}

/** Whether an option is offered of a photo, and how the photo fits it; pressed, what is cut off is seen, and it may be taken off. */
export function FitCell({
  photo,
  option,
  cell,
}: {
  photo: Api['FitPhoto']
  option: Api['FitOption']
  cell: Cell
}) {
  // Of thousands of cells few are ever pressed: only those have something to float beside them.
  const [pressed, setPressed] = useState(false)
  const name = photo.title || photo.fileName
  const lost = cell.lost !== null && cell.lost >= 0.005
  const button = (
    <button
      type="button"
      aria-label={w.fit.cell(option.called, name, inWords(cell))}
      aria-haspopup="dialog"
      {...(!pressed && { onClick: () => setPressed(true) })}
      className="flex min-h-9 w-full items-center gap-1.5 px-1 text-left hover:bg-well"
    >
      <FitMark grade={cell.grade} off={cell.why !== 'no'} />
      {lost && cell.why === 'no' && (
        <span className="text-quiet tabular-nums">−{Math.round((cell.lost ?? 0) * 100)} %</span>
      )}
    </button>
  )
  if (!pressed) return button
  return (
    <FitPopover label={w.fit.cell(option.called, name, '')} wide startsOpen trigger={button}>
      {(close) => <FitAbout photo={photo} option={option} cell={cell} name={name} onDone={close} />}
    </FitPopover>
  )
}
