import { Link } from '@tanstack/react-router'
import { fitting, rendition } from '../../kit/renditions'
import { w } from '../../words'
import type { Order } from './data'

type Line = Order['lines'][number]

/** What was ordered of a photo, with the part of it that is printed, and the file it is printed from. */
export function OrderedLine({ order, place, line }: { order: string; place: number; line: Line }) {
  const { photo } = line
  return (
    <li className="grid grid-cols-[6rem_minmax(0,1fr)_auto] items-center gap-x-5 border-t border-line py-3">
      <span className="grid h-[4.5rem] place-items-center">
        {photo && <Printed line={line} photo={photo} />}
      </span>
      <span className="min-w-0">
        {photo ? (
          <Link
            to="/workroom/photos"
            search={{ photo: photo.id }}
            className="block truncate font-semibold hover:underline hover:decoration-strong-line hover:underline-offset-4"
          >
            {line.called}
          </Link>
        ) : (
          <span className="block truncate font-semibold">{line.called}</span>
        )}
        <span className="block">{w.orders.of(line.count, line.option)}</span>
        <span className="block text-small text-quiet">
          {[
            line.fileName,
            line.gallery,
            line.pixelsPerInch !== null ? w.orders.perInch(line.pixelsPerInch) : '',
            line.kind === 'digital' ? w.orders.fetched(line.fetched) : '',
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
        {line.print && <PrintFile order={order} place={place} print={line.print} />}
        {(!photo || photo.isBinned) && (
          <span className="block text-small font-semibold">{photo ? w.orders.binned : w.orders.gone}</span>
        )}
      </span>
      <span className="text-right tabular-nums">
        {line.amount}
        {line.count > 1 && <span className="block text-small text-quiet">{w.orders.each(line.each)}</span>}
      </span>
    </li>
  )
}

/** The file that a line is printed from, and how large that is. */
function PrintFile({
  order,
  place,
  print,
}: {
  order: string
  place: number
  print: NonNullable<Line['print']>
}) {
  return (
    <span className="block text-small text-quiet">
      <a
        href={`/api/orders/${order}/prints/${place}`}
        download
        className="underline decoration-strong-line decoration-1 underline-offset-4 hover:text-ink"
      >
        {w.orders.printFile}
      </a>
      {' · '}
      {[
        w.orders.printSize(print.width, print.height, print.pixelsPerInch),
        print.isEnlarged ? w.orders.enlarged : '',
      ]
        .filter(Boolean)
        .join(', ')}
    </span>
  )
}

/** The part of a photo that is printed, or all of it with the white round it; all of it, where nothing is. */
function Printed({ line, photo }: { line: Line; photo: NonNullable<Line['photo']> }) {
  const { width, height } = photo
  const { x, y, width: wide, height: high } = line.crop ?? { x: 0, y: 0, width: 1, height: 1 }
  return (
    <svg
      viewBox={`${x * width} ${y * height} ${wide * width} ${high * height}`}
      role="img"
      aria-label={line.called}
      className="h-[4.5rem] w-full"
    >
      {(x < 0 || y < 0) && (
        <rect
          x={x * width}
          y={y * height}
          width={wide * width}
          height={high * height}
          fill="#fff"
          stroke="var(--line)"
          strokeWidth={2}
          vectorEffect="non-scaling-stroke"
        />
      )}
      <image
        href={rendition(photo.picture, fitting(photo.renditions, 480) ?? 480)}
        width={width}
        height={height}
        preserveAspectRatio="none"
      />
    </svg>
  )
}
