import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { Api } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { w } from '../../words'
import { Colours, LookSentences } from '../themes/LookSentences'
import { nothing, saysSomething } from '../themes/useTheme'
import type { PageDraft } from './usePageDraft'

/** What of the look is otherwise on one page than on the site; folded until it is asked for. */
export function PageLook({ draft, notes }: { draft: PageDraft; notes: Api['PageNotes'] }) {
  const [open, setOpen] = useState(false)
  const change = draft.edit.draft.look
  const isSaid = saysSomething(change)
  const say = (next: Partial<Api['LookChange']>) => draft.changeDraft({ look: { ...change, ...next } })
  const { look, unreadable } = notes
  const modes = look.scheme === 'device' ? [false, true] : [look.scheme === 'dark']
  return (
    <>
      <Button look="word" aria-expanded={open} onClick={() => setOpen(!open)}>
        {w.themes.page.name}
        {isSaid && <span className="text-plum"> · {w.pages.set}</span>}
      </Button>
      {open && (
        <section aria-label={w.themes.page.name} className="basis-full text-small">
          <p className="text-quiet">
            {w.themes.page.reaches}{' '}
            <Link to="/workroom/look" className={asWord}>
              {w.themes.page.site}
            </Link>
          </p>
          {isSaid && (
            <p className="mt-1">
              <Button look="word" onClick={() => draft.changeDraft({ look: nothing })}>
                {w.themes.page.backWhole}
              </Button>
            </p>
          )}
          <LookSentences level="page" change={change} look={look} onSay={say} />
          {modes.map((dark) => (
            <Colours
              key={String(dark)}
              level="page"
              dark={dark}
              theme={change}
              palette={dark ? look.dark : look.light}
              unreadable={unreadable.filter((u) => u.dark === dark).map((u) => u.fault)}
              onSay={say}
            />
          ))}
        </section>
      )}
    </>
  )
}
