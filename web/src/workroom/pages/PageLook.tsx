import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { Api } from '../../api/client'
import { asWord, Button } from '../../kit/Button'
import { w } from '../../words'
import { LookLevel } from '../themes/LookSentences'
import { nothing, saysSomething } from '../themes/useTheme'
import type { PageDraft } from './usePageDraft'

/** What of the look is otherwise on one page than on the site; folded until it is asked for. */
export function PageLook({ draft, notes }: { draft: PageDraft; notes: Api['PageNotes'] }) {
  const [open, setOpen] = useState(false)
  const change = draft.edit.draft.look
  const isSaid = saysSomething(change)
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
          <LookLevel
            level="page"
            change={change}
            look={notes.look}
            unreadable={notes.unreadable}
            isSaid={isSaid}
            onSay={(next) => draft.changeDraft({ look: { ...change, ...next } })}
            onNothing={() => draft.changeDraft({ look: nothing })}
          />
        </section>
      )}
    </>
  )
}
