import { Link } from '@tanstack/react-router'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { usePages } from '../shell/data'
import { Empty, Heading } from '../shell/Station'

/** All pages with their addresses and who can see them. */
export function PagesStation() {
  const pages = usePages()
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.pages.title} />
      {pages.data?.length === 0 && <Empty title={w.pages.none} lead={w.pages.noneLead} />}
      <ul className="mt-6 max-w-[60rem]">
        {pages.data?.map((p) => (
          <li key={p.id} className="border-t border-line">
            <Link
              to="/workroom/pages/$page"
              params={{ page: p.id }}
              className="grid grid-cols-[4.5rem_minmax(0,1.3fr)_minmax(0,1fr)_15rem] items-center gap-x-6 py-2 hover:bg-well"
            >
              <span className="flex h-12 items-center">
                {p.picture && (
                  <img
                    src={rendition(p.picture, 480)}
                    alt=""
                    loading="lazy"
                    className="max-h-12 w-auto max-w-full"
                  />
                )}
              </span>
              <span className="truncate font-display text-lead font-semibold">{p.draft.heading}</span>
              <span className="truncate text-small text-quiet">
                /{p.address}, {w.photos(p.photos)}
              </span>
              <span className={`text-small ${p.published ? '' : 'text-quiet'}`}>
                {p.published
                  ? p.changed
                    ? `${w.pages.published}, ${w.pages.changed}`
                    : w.pages.published
                  : w.pages.draft}
                {p.published && <span className="block text-quiet">{w.pages.views(p.views)}</span>}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </div>
  )
}
