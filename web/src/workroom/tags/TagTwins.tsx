import { useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useMerge } from './useMerge'

/** So many groups stand there at once. */
const few = 5

/** Tags that are likely one, each group with the names it may go by; nothing is decided for anybody. */
export function TagTwins({ groups }: { groups: readonly Api['TagTwinGroup'][] }) {
  const [all, setAll] = useState(false)
  const merge = useMerge()
  return (
    <section aria-labelledby="tag-twins" className="mt-7 max-w-[54rem]">
      <h2 id="tag-twins" className="font-display text-lead font-semibold">
        {w.tags.twins}
      </h2>
      <p className="mt-1 mb-2 text-small text-quiet">{w.tags.twinsLead}</p>
      <ul className="border-b border-line">
        {groups.slice(0, all ? groups.length : few).map(({ tags }) => (
          <li
            key={tags.map((t) => t.id).join()}
            className="flex flex-wrap items-baseline gap-x-3 gap-y-1 border-t border-line py-1.5"
          >
            <span className="text-small text-quiet">{w.tags.allBecome}</span>
            {tags.map((tag) => (
              <Button
                key={tag.id}
                className="!px-2.5 !py-0.5"
                onClick={() => merge.mutate({ into: tag, gone: tags.filter((t) => t.id !== tag.id) })}
              >
                {tag.name}{' '}
                <span className="ml-1 text-small text-quiet tabular-nums">{w.count(tag.photos)}</span>
              </Button>
            ))}
          </li>
        ))}
      </ul>
      {!all && groups.length > few && (
        <Button look="word" className="mt-2 text-small" onClick={() => setAll(true)}>
          {w.tags.moreTwins(groups.length - few)}
        </Button>
      )}
    </section>
  )
}
