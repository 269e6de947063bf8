import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { api, body } from '../../api/client'
import { Button, Choice } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { useKeys } from '../shell/keys'
import { tellDone } from '../shell/news'
import { Empty, Heading } from '../shell/Station'
import { TagRow } from './TagRow'
import { TagTwins } from './TagTwins'

const away = w.errors.away

/** All tags by name: renamed where they stand, made one, thrown away where no photo has them. */
export function TagsStation() {
  const [typed, setTyped] = useState('')
  const [wanted, setWanted] = useState('')
  const [unused, setUnused] = useState(false)
  const field = useRef<HTMLInputElement>(null)
  useKeys({ '/': () => field.current?.focus() })
  useEffect(() => {
    const timer = setTimeout(() => setWanted(typed.trim()), 200)
    return () => clearTimeout(timer)
  }, [typed])
  const list = useInfiniteQuery({
    queryKey: ['tags', 'all', wanted, unused],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/tags/all', {
          params: { query: { typed: wanted, unused, ...(pageParam !== undefined && { after: pageParam }) } },
        }),
        away,
      ),
    getNextPageParam: (page) => page.next ?? undefined,
    placeholderData: (before) => before,
  })
  const twins = useQuery({
    queryKey: ['tags', 'twins'],
    queryFn: async () => (await body(api.GET('/api/tags/twins'), away)).groups,
  }).data
  const drop = useAct(
    () => body(api.POST('/api/tags/unused/removal'), away),
    ({ count, done }) => {
      setUnused(false)
      tellDone(w.tags.dropped(count), done)
    },
  )
  const first = list.data?.pages[0]
  if (!first) return null
  const tags = list.data?.pages.flatMap((p) => p.tags) ?? []
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.tags.title}
        lead={w.tags.lead}
        right={
          <label className="flex w-52 items-baseline border-b border-line pb-1 text-small focus-within:border-plum">
            <span className="sr-only">{w.tags.find}</span>
            <input
              ref={field}
              type="search"
              className="w-full bg-transparent outline-none"
              placeholder={`${w.tags.find}  /`}
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
              onKeyDown={(e) => e.key === 'Escape' && (typed ? setTyped('') : e.currentTarget.blur())}
            />
          </label>
        }
      />
      {twins && twins.length > 0 && !wanted && !unused && <TagTwins groups={twins} />}
      <div className="mt-7 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-small">
        <Choice on={!unused} onClick={() => setUnused(false)}>
          {w.tags.all}
        </Choice>
        <Choice on={unused} onClick={() => setUnused(true)}>
          {w.tags.unused(first.unused)}
        </Choice>
        {unused && first.unused > 0 && (
          <Button look="plain" className="ml-auto" onClick={() => drop.mutate(undefined)}>
            {w.tags.drop(first.unused)}
          </Button>
        )}
      </div>
      {tags.length === 0 ? (
        <Empty
          title={unused ? w.tags.noneUnused : wanted ? w.tags.noneFits : w.tags.none}
          {...(!unused && !wanted && { lead: w.tags.noneLead })}
        />
      ) : (
        <ul className="mt-2 max-w-[54rem] border-b border-line" aria-label={w.tags.title}>
          {tags.map((tag) => (
            <TagRow key={tag.id} tag={tag} />
          ))}
        </ul>
      )}
      {list.hasNextPage && (
        <Button className="mt-5" onClick={() => void list.fetchNextPage()}>
          {w.tags.more(first.total - tags.length)}
        </Button>
      )}
    </div>
  )
}
