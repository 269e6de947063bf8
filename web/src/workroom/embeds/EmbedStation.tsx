import { useQuery } from '@tanstack/react-query'
import { useNavigate, useSearch } from '@tanstack/react-router'
import { useRef, useState } from 'react'
import { type Api, ApiProblem, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { copy } from '../../kit/copy'
import { NumberWord } from '../../kit/NumberWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useSession } from '../shell/data'
import { Empty, Heading } from '../shell/Station'
import { EmbedPreview } from './EmbedPreview'
import { layouts, sizes } from './embed'

/** A page, an album or a category on another website: how it stands there, and the line that is pasted. */
export function EmbedStation() {
  const search = useSearch({ from: '/workroom/embed' })
  const of = search.of ?? ''
  const line = useQuery({
    queryKey: ['embeds', search],
    queryFn: () =>
      body(
        api.GET('/api/embeds', {
          params: {
            query: {
              of,
              layout: search.layout,
              size: search.size,
              most: search.most === undefined ? undefined : String(search.most),
            },
          },
        }),
        w.errors.away,
      ),
    // What is shown stays until the other is there.
    placeholderData: (before) => before,
  })
  if (line.error)
    return (
      <div className="px-[30px] pt-7">
        {line.error instanceof ApiProblem && line.error.status === 404 ? (
          <Empty title={w.embeds.unseen} lead={w.embeds.unseenLead} />
        ) : (
          <p>{line.error.message}</p>
        )}
      </div>
    )
  return line.data ? <Opened line={line.data} /> : null
}

function Opened({ line }: { line: Api['EmbedLine'] }) {
  const search = useSearch({ from: '/workroom/embed' })
  const go = useNavigate({ from: '/workroom/embed' })
  const bounds = useSession().data?.bounds
  const say = (next: Partial<typeof search>) => void go({ search: { ...search, ...next }, replace: true })
  return (
    <div className="grid h-full grid-cols-[430px_minmax(0,1fr)] max-lg:h-auto max-lg:grid-cols-1">
      <div className="overflow-y-auto border-r border-line px-[26px] pt-7 pb-10">
        <Heading title={w.embeds.title(line.title)} lead={w.embeds.lead} />
        <p className="mt-6 flex flex-wrap items-baseline gap-x-1.5 gap-y-2">
          <span>{w.embeds.stand}</span>
          <span>
            <WordSelect
              label={w.embeds.layout}
              value={search.layout ?? 'own'}
              choices={(['own', ...layouts] as const).map(
                (l) => [l, l === 'own' ? w.embeds.own : w.blocks.inLayout[l]] as const,
              )}
              onChoose={(l) => say({ layout: l === 'own' ? undefined : l })}
            />
            ,
          </span>
          {/* Slides are as wide as their place. */}
          {search.layout !== 'slides' && (
            <span>
              <WordSelect
                label={w.embeds.size}
                value={search.size ?? 'usual'}
                choices={(['usual', ...sizes] as const).map((s) => [s, w.embeds.sizes[s]] as const)}
                onChoose={(s) => say({ size: s === 'usual' ? undefined : s })}
              />
              ,
            </span>
          )}
          <span>{w.embeds.atMost}</span>
          <NumberWord
            label={w.embeds.most}
            value={Number(line.most)}
            least={1}
            most={bounds?.largestEmbed ?? 1}
            onSay={(most) => say({ most })}
          />
          <span>{w.embeds.ofThem}</span>
        </p>
        <Line line={line.line} />
        <p className="mt-7 text-small text-quiet">
          {w.embeds.address} <span className="text-ink select-all">{line.address}</span>
        </p>
      </div>
      <EmbedPreview source={line.source} title={line.title} />
    </div>
  )
}

/** The line itself, and the verb that takes it along. */
function Line({ line }: { line: string }) {
  const field = useRef<HTMLTextAreaElement>(null)
  const [told, setTold] = useState<{ line: string; words: string } | null>(null)
  async function take() {
    const copied = await copy(line)
    if (!copied) field.current?.select()
    setTold({ line, words: copied ? w.embeds.copied : w.embeds.byHand })
  }
  return (
    <div className="mt-6">
      <textarea
        ref={field}
        readOnly
        aria-label={w.embeds.line}
        value={line}
        spellCheck={false}
        className="block w-full resize-none border border-line bg-raised p-3 font-mono text-[0.75rem] leading-[1.55] break-all [field-sizing:content]"
        onFocus={(e) => e.target.select()}
      />
      <p className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <Button look="next" onClick={() => void take()}>
          {w.embeds.copy}
        </Button>
        <span role="status" className="min-w-0 flex-1 text-small text-quiet">
          {told?.line === line ? told.words : w.embeds.paste}
        </span>
      </p>
    </div>
  )
}
