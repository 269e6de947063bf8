import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { MarkingChoice } from '../access/marking/MarkingChoice'
import { StaleVerbs } from '../shell/Stale'
import { Heading } from '../shell/Station'
import { asRead, useWatermark } from './useWatermark'
import { WatermarkExamples } from './WatermarkExamples'
import { WatermarkSentences } from './WatermarkSentences'

/** What is made into the pictures that some visitors get, and who gets them without it. */
export function WatermarkStation() {
  const shown = useQuery(asRead)
  if (shown.error && !shown.data) return <p className="p-10">{shown.error.message}</p>
  return shown.data ? <Opened shown={shown.data} /> : null
}

function Opened({ shown }: { shown: Api['WatermarkShown'] }) {
  const { wanted, isChanged, isNothing, lacksPicture, isStale, problem, change, use, back, overwrite } =
    useWatermark(shown)
  const isUnused = shown.markings.every((m) => m.marking.who === 'everyone')
  return (
    <div className="grid h-full grid-cols-[430px_minmax(0,1fr)] max-lg:h-auto max-lg:grid-cols-1">
      <div className="overflow-y-auto border-r border-line px-[26px] pt-7 pb-10">
        <Heading title={w.watermark.title} lead={w.watermark.lead} />
        <section aria-label={w.watermark.asks} className="mt-5">
          <WatermarkSentences watermark={wanted} fault={problem} onSay={change} />
          <p className="mt-5 flex min-h-9 flex-wrap items-baseline gap-x-4 gap-y-2">
            {isChanged && !isStale && !lacksPicture && (!isNothing || shown.isSeen) && (
              <Button look="next" onClick={() => use.mutate(undefined)} disabled={use.isPending}>
                {isNothing ? w.watermark.remove : shown.isSeen ? w.watermark.use : w.watermark.begin}
              </Button>
            )}
            {isChanged && !isStale && (
              <Button look="word" onClick={back}>
                {w.watermark.back}
              </Button>
            )}
            <span role="status" className="text-small text-quiet">
              {isStale
                ? w.watermark.stale
                : isChanged
                  ? shown.isSeen && w.watermark.changed
                  : !shown.isSeen
                    ? w.watermark.nothing
                    : isUnused
                      ? w.watermark.unused
                      : w.watermark.live}
            </span>
            {isStale && <StaleVerbs onReload={back} onOverwrite={overwrite} />}
          </p>
        </section>
        {(shown.isSeen || !isUnused) && <Whom markings={shown.markings} more={shown.moreMarkings} />}
      </div>
      <WatermarkExamples watermark={wanted} examples={shown.examples} />
    </div>
  )
}

function Whom({ markings, more }: { markings: readonly Api['MarkingShown'][]; more: number }) {
  return (
    <section aria-label={w.watermark.whom} className="mt-6 border-t border-strong-line pt-4">
      <h2 className="text-lead">{w.watermark.whom}</h2>
      <p className="mt-1 text-small text-quiet">{w.watermark.whomLead}</p>
      <ul className="mt-3">
        {markings.map((m) => (
          <li key={`${m.kind}${m.thing}`} className="border-t border-line py-2.5">
            <p className="text-small text-quiet">
              {m.kind === 'site' ? (
                w.watermark.site
              ) : (
                <>
                  {w.watermark.kindsOfThing[m.kind as 'album' | 'category']}{' '}
                  {m.kind === 'album' ? (
                    <Link
                      to="/workroom/albums/$album"
                      params={{ album: m.thing }}
                      className="text-ink underline decoration-strong-line decoration-1 underline-offset-4"
                    >
                      {m.name}
                    </Link>
                  ) : (
                    <span className="text-ink">{m.name}</span>
                  )}
                </>
              )}
            </p>
            <div className="mt-2">
              <MarkingChoice
                shown={m}
                label={w.watermark.of(m.kind === 'site' ? w.watermark.site : m.name)}
              />
            </div>
          </li>
        ))}
      </ul>
      {more > 0 && <p className="border-t border-line py-2.5">{w.watermark.more(more)}</p>}
      <p className="border-t border-line pt-3 text-small text-quiet">{w.watermark.elsewhere}</p>
    </section>
  )
}
