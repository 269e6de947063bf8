import { memo, type PointerEvent, useRef } from 'react'
import type { Api } from '../../api/client'
import { fitting, rendition } from '../../kit/renditions'
import { w } from '../../words'
import { type Beneath, beneathWords, standing } from './beneath'

/** One frame of the sheet: the photo whole, a hairline, and beneath it what was chosen to stand there. */
export const Frame = memo(function Frame({
  photo,
  index,
  total,
  size,
  beneath,
  numbered,
  held,
  focused,
  marked,
  flying,
  onPointer,
  onOpen,
  onFocus,
}: {
  photo: Api['SheetPhoto'] | undefined
  index: number
  total: number
  size: { cell: number; picture: number }
  beneath: Beneath
  /** Its position is shown: where the order is made by hand it is what one types. */
  numbered: boolean
  held: boolean
  focused: boolean
  marked: boolean
  /** It goes by so fast that its picture is not asked for, unless it stands here already. */
  flying: boolean
  onPointer: (e: PointerEvent, index: number) => void
  onOpen: (index: number) => void
  onFocus: (index: number) => void
}) {
  const box = { width: size.cell, height: size.picture }
  const pictured = useRef('')
  if (photo && !flying) pictured.current = photo.picture
  if (!photo)
    return (
      <div style={{ width: size.cell }} aria-hidden>
        <div style={box} className="bg-well" />
        <div className="mt-1.5 border-t border-line pt-1 text-[0.6875rem]">&nbsp;</div>
      </div>
    )
  const stands = standing(photo, beneath)
  const shape = photo.width / photo.height
  const wide = Math.min(size.cell, size.picture * shape)
  const seen = photo.state === 'ready' || photo.preview
  // Only what is made already: asking for another size would have the original decoded while others still arrive.
  const made = fitting(photo.renditions, wide * devicePixelRatio)
  return (
    <div
      id={`frame-${index}`}
      data-frame={index}
      role="option"
      aria-selected={held}
      aria-setsize={total}
      aria-posinset={index + 1}
      aria-label={w.sheet.frame(index + 1, photo.title || photo.fileName)}
      tabIndex={focused ? 0 : -1}
      style={{ width: size.cell }}
      className="group cursor-default touch-manipulation select-none rounded-control"
      onPointerDown={(e) => onPointer(e, index)}
      onDoubleClick={() => onOpen(index)}
      onFocus={() => onFocus(index)}
    >
      <div style={box} className="frame-picture flex items-end">
        {!seen || photo.state === 'failed' ? (
          <div
            style={{ width: wide, height: wide / shape }}
            className="flex items-end bg-well p-2 text-small text-quiet"
          >
            {photo.state === 'failed' ? w.sheet.failed : w.sheet.waiting}
          </div>
        ) : pictured.current !== photo.picture ? (
          <div style={{ width: wide, height: wide / shape }} className="bg-well" />
        ) : (
          <img
            src={made === undefined ? `/api/photos/${photo.id}/preview` : rendition(photo.picture, made)}
            width={Math.round(wide)}
            height={Math.round(wide / shape)}
            alt=""
            decoding="async"
            draggable={false}
            className={marked ? 'opacity-70' : photo.decision === 'leave_out' ? 'opacity-35' : ''}
          />
        )}
      </div>
      <div
        className={`mt-1.5 flex gap-2 pt-[3px] text-[0.6875rem] leading-4 ${held || marked ? 'border-t-[3px] border-plum' : 'border-t border-line pb-[2px] group-hover:border-strong-line'}`}
      >
        {numbered && (
          <span className={`font-display font-bold tabular-nums ${held ? 'text-plum' : ''}`}>
            {w.count(index + 1)}
          </span>
        )}
        <span
          data-open
          className={`min-w-0 cursor-pointer truncate hover:underline ${held ? 'font-semibold text-plum' : ''}`}
          title={photo.title ? photo.fileName : undefined}
        >
          {beneathWords(photo, beneath) || '\u00a0'}
        </span>
        {stands && <span className="ml-auto font-semibold whitespace-nowrap">{stands}</span>}
      </div>
    </div>
  )
})
