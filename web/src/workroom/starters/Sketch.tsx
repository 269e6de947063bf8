import type { ReactNode } from 'react'
import type { Api } from '../../api/client'
import { rendition } from '../../kit/renditions'

type Starter = Api['Starter']

/** Lines where words will stand. */
function Lines({ count, className = '' }: { count: number; className?: string }) {
  return (
    <span className={`block ${className}`}>
      {Array.from({ length: count }, (_, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: lines are all alike.
        <span key={i} className={`mt-[5px] block h-[3px] bg-line ${i === count - 1 ? 'w-2/3' : ''}`} />
      ))}
    </span>
  )
}

/** How a starter's page stands, small: the owner's own photos in its places, and its title. */
export function Sketch({
  starter,
  pictures,
  title,
}: {
  starter: Starter
  pictures: readonly string[]
  title: string
}) {
  let taken = 0
  /** The next of the photos; where there is none, the place that it would have. */
  const photo = (className: string): ReactNode => {
    const picture = pictures.length > 0 ? pictures[taken % pictures.length] : undefined
    const key = taken++
    return picture === undefined ? (
      <span key={key} className={`block border border-dashed border-strong-line ${className}`} />
    ) : (
      <img
        key={key}
        src={rendition(picture, 480)}
        alt=""
        loading="lazy"
        className={`block object-cover ${className}`}
      />
    )
  }
  const several = (count: number, className: string) => Array.from({ length: count }, () => photo(className))
  const heading = (
    <span className="block truncate font-display text-[0.9375rem] leading-tight font-bold">{title}</span>
  )
  const over = () => (
    <span className="relative -mx-3 -mt-3 block h-[76px] overflow-hidden">
      {photo('h-full w-full')}
      <span className="absolute bottom-0 left-3 max-w-[85%] truncate bg-raised px-1.5 pt-0.5 font-display text-[0.9375rem] font-bold">
        {title}
      </span>
    </span>
  )
  const sketches: Record<Starter, () => ReactNode> = {
    eventReport: () => (
      <>
        {over()}
        <Lines count={2} className="w-1/2" />
        <span className="mt-2 grid grid-cols-4 gap-1">{several(8, 'h-10 w-full')}</span>
      </>
    ),
    classPage: () => (
      <>
        {heading}
        {[0, 1, 2].map((row) => (
          <span key={row} className="mt-1.5 block">
            <Lines count={1} className="w-1/3" />
            <span className="mt-1 grid grid-cols-5 gap-1">{several(5, 'h-8 w-full')}</span>
          </span>
        ))}
      </>
    ),
    portfolio: () => (
      <>
        {heading}
        <span className="mt-2 grid grid-cols-[3fr_2fr] gap-1">{several(2, 'h-[70px] w-full')}</span>
        <span className="mt-1 grid grid-cols-[2fr_3fr] gap-1">{several(2, 'h-[70px] w-full')}</span>
      </>
    ),
    seasonOverview: () => (
      <>
        {heading}
        <span className="mt-2 grid grid-cols-3 gap-2">{several(3, 'h-12 w-full')}</span>
        <span className="mt-2.5 flex gap-2 border-t border-line pt-2">
          {[0, 1, 2, 3].map((n) => (
            <span key={n} className={`h-[3px] w-7 ${n === 0 ? 'bg-ink' : 'bg-strong-line'}`} />
          ))}
        </span>
        <span className="mt-2 grid grid-cols-6 gap-1">{several(12, 'h-7 w-full')}</span>
      </>
    ),
    salesGallery: () => (
      <>
        {heading}
        <span className="mt-2 grid grid-cols-3 gap-x-2 gap-y-1.5">
          {Array.from({ length: 6 }, (_, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: places are all alike.
            <span key={i}>
              {photo('h-11 w-full')}
              <Lines count={1} className="w-3/4" />
            </span>
          ))}
        </span>
        <Lines count={1} className="mt-2 w-1/3" />
      </>
    ),
    contact: () => (
      <>
        {heading}
        <span className="mt-3 grid grid-cols-2 gap-4">
          {photo('h-[104px] w-full')}
          <Lines count={4} />
        </span>
      </>
    ),
    clubHome: () => (
      <>
        {over()}
        <span className="mt-2 grid grid-cols-3 gap-2">{several(3, 'h-11 w-full')}</span>
        <Lines count={1} className="mt-1.5 w-1/4" />
        <span className="mt-1.5 flex gap-1 overflow-hidden">{several(5, 'h-9 w-16 shrink-0')}</span>
      </>
    ),
  }
  return (
    <div aria-hidden className="h-[196px] overflow-hidden border border-line bg-raised p-3">
      {sketches[starter]()}
    </div>
  )
}
