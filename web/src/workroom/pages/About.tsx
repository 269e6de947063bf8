import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { Says } from './blocks/Parts'
import type { PageDraft } from './usePageDraft'

/** The day of today where one is, as a date field has it. */
const today = () => new Date().toLocaleDateString('sv-SE')

/** Whether a page is a post, and of which day; whether lists have it; how wide it is and what stands above it. */
export function About({ draft }: { draft: PageDraft }) {
  const { posted, unlisted, wide, bare } = draft.edit.draft
  return (
    <>
      <Says>
        <span>{w.pages.itIs}</span>
        <WordSelect
          label={w.pages.kind}
          value={posted === null ? 'page' : 'post'}
          choices={(['page', 'post'] as const).map((kind) => [kind, w.pages.kinds[kind]] as const)}
          onChoose={(kind) => draft.changeDraft({ posted: kind === 'post' ? today() : null })}
        />
        {posted !== null && (
          <input
            type="date"
            required
            aria-label={w.pages.postedOn}
            className="border-b border-strong-line bg-transparent font-semibold outline-none focus:border-plum"
            value={posted}
            onChange={(e) => e.target.value && draft.changeDraft({ posted: e.target.value })}
          />
        )}
      </Says>
      <Says>
        <WordSelect
          label={w.pages.listed}
          value={unlisted ? 'unlisted' : 'listed'}
          choices={(['listed', 'unlisted'] as const).map((l) => [l, w.pages.lists[l]] as const)}
          onChoose={(l) => draft.changeDraft({ unlisted: l === 'unlisted' })}
        />
      </Says>
      <Says>
        <WordSelect
          label={w.pages.width}
          value={wide ? 'wide' : 'usual'}
          choices={(['usual', 'wide'] as const).map((l) => [l, w.pages.spans[l]] as const)}
          onChoose={(l) => draft.changeDraft({ wide: l === 'wide' })}
        />
        <WordSelect
          label={w.pages.head}
          value={bare ? 'bare' : 'head'}
          choices={(['head', 'bare'] as const).map((l) => [l, w.pages.heads[l]] as const)}
          onChoose={(l) => draft.changeDraft({ bare: l === 'bare' })}
        />
      </Says>
    </>
  )
}
