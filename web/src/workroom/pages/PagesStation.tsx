import { Link, useNavigate } from '@tanstack/react-router'
import { type FormEvent, useState } from 'react'
import { api, body } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { useAct, usePages } from '../shell/data'
import { Empty, Heading } from '../shell/Station'

const away = w.errors.away

/** All pages with their addresses and who can see them. */
export function PagesStation() {
  const pages = usePages()
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.pages.title}
        right={
          <div className="flex flex-wrap items-baseline gap-x-7 gap-y-2">
            <Link to="/workroom/menu" className={asWord}>
              {w.menu.title}
            </Link>
            <Link to="/workroom/starters" className={asWord}>
              {w.starters.verb}
            </Link>
            <NewPage />
          </div>
        }
      />
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
              <span className="truncate font-display text-lead font-semibold">{p.title}</span>
              <span className="truncate text-small text-quiet">
                /{p.address}
                {p.posted && `, ${w.pages.postOf(p.posted)}`}
                {p.photos > 0 && `, ${w.photos(p.photos)}`}
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

/** Makes a page that begins with its heading alone. */
function NewPage() {
  const [title, setTitle] = useState('')
  const go = useNavigate()
  const make = useAct(
    () => body(api.POST('/api/pages', { body: { title: title.trim() } }), away),
    (page) => go({ to: '/workroom/pages/$page', params: { page: page.id } }),
  )
  function submit(e: FormEvent) {
    e.preventDefault()
    if (title.trim()) make.mutate(undefined)
  }
  return (
    <form className="flex items-baseline gap-3" onSubmit={submit}>
      <input
        className="w-56 border-b border-strong-line bg-transparent pb-1 outline-none focus:border-plum"
        aria-label={w.pages.make}
        placeholder={w.pages.make}
        maxLength={200}
        value={title}
        onChange={(e) => setTitle(e.target.value)}
      />
      <Button type="submit" look="plain" disabled={!title.trim() || make.isPending}>
        {w.pages.makeIt}
      </Button>
    </form>
  )
}
