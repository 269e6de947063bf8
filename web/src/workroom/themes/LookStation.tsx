import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { usePages } from '../shell/data'
import { StaleVerbs } from '../shell/Stale'
import { Heading } from '../shell/Station'
import { HeadAndFoot } from './HeadAndFoot'
import { LookPreview } from './LookPreview'
import { LookLevel, SiteSentences } from './LookSentences'
import { Shipped } from './Shipped'
import { asRead, nothing, saysSomething, useTheme } from './useTheme'

/** How the whole site looks: a theme, and what is set otherwise, beside a page of it. */
export function LookStation() {
  const theme = useQuery(asRead)
  if (theme.error && !theme.data) return <p className="p-10">{theme.error.message}</p>
  return theme.data ? <Opened site={theme.data} /> : null
}

function Opened({ site }: { site: Api['SiteTheme'] }) {
  const { theme, state, problem, change, publish, takeTheirs, overwrite } = useTheme(site)
  const pages = usePages().data ?? []
  const [chosen, setChosen] = useState<string | null>(null)
  const seen = pages.find((p) => p.id === chosen) ?? pages.find((p) => p.published) ?? pages[0]
  const { look, unreadable, opened, shipped } = site
  // What stands there is none of the look: it stays, whichever theme is taken.
  const { name: _, logo: __, foot: ___, ...otherwise } = theme
  return (
    <div className="grid h-full grid-cols-[430px_minmax(0,1fr)] max-lg:h-auto max-lg:grid-cols-1">
      <div className="overflow-y-auto border-r border-line px-[26px] pt-7 pb-10">
        <Heading title={w.themes.title} lead={w.themes.reaches(pages.filter((p) => p.published).length)} />
        <p className="mt-4 flex flex-wrap items-baseline gap-x-4 gap-y-2">
          {!opened.isPublished && (
            <Button look="next" disabled={state !== 'saved'} onClick={() => void publish()}>
              {w.themes.publish}
            </Button>
          )}
          <span role="status" className="text-small text-quiet">
            {state === 'stale'
              ? w.themes.stale
              : state === 'unsaved'
                ? problem || w.plate.unsaved
                : opened.isPublished
                  ? w.themes.live
                  : w.themes.draft}
          </span>
          {state === 'stale' && (
            <StaleVerbs onReload={() => void takeTheirs()} onOverwrite={() => void overwrite()} />
          )}
        </p>
        <Shipped all={shipped} chosen={theme.name} onChoose={(name) => change({ name })} />
        <div className="mt-6 text-small">
          <LookLevel
            level="site"
            change={theme}
            look={look}
            unreadable={unreadable}
            isSaid={saysSomething(otherwise)}
            onSay={change}
            onNothing={() => change(plain)}
          >
            <SiteSentences theme={theme} look={look} onSay={change} />
            <HeadAndFoot theme={theme} onSay={change} />
          </LookLevel>
        </div>
      </div>
      {seen && (
        <LookPreview page={seen.id} title={seen.title} version={opened.edited}>
          <WordSelect
            label={w.themes.seen}
            value={seen.id}
            choices={pages.map((p) => [p.id, p.title] as const)}
            onChoose={setChosen}
            className="max-w-56 truncate"
          />
        </LookPreview>
      )}
    </div>
  )
}

/** Nothing is set otherwise than in the theme. */
const plain = { ...nothing, scheme: null, head: null }
