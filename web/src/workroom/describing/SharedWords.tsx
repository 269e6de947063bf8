import { type KeyboardEvent, useEffect, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { CategoryChooser, PersonChooser, TagChooser } from '../plate/PlateThings'
import { TakenWord } from '../plate/TakenWords'
import { useAct } from '../shell/data'
import { takenAt } from '../shell/format'
import { hand } from '../shell/hand'
import { tellDone } from '../shell/news'
import { useDescribe, useSummary } from './data'
import type { WordField } from './pattern'
import { SharedThings } from './SharedThings'

const seldom = ['creator', 'copyright', 'licence', 'origin', 'link'] as const

/** The words of all photos in hand, as on a plate: what differs says so, and what is written goes on all of them. */
export function SharedWords() {
  const summary = useSummary().data
  const [all, setAll] = useState(false)
  const describe = useDescribe()
  if (!summary) return null
  const words = (field: WordField) => summary.words.find((s) => s.field === field)
  function field(name: WordField, look: string, placeholder: string) {
    const said = words(name)
    return (
      said && (
        <SharedField
          said={said}
          of={summary?.looked ?? 0}
          look={look}
          placeholder={placeholder}
          onWrite={(text) =>
            describe.mutate([{ write: { field: name, pattern: text === '' ? [] : [{ text }] } }])
          }
        />
      )
    )
  }
  const line = (name: WordField, label: string, placeholder: string) => (
    <div key={name} className="grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-1.5">
      <span className="text-quiet">{label}</span>
      <div>{field(name, '!my-0 !ml-0 !w-full', placeholder)}</div>
    </div>
  )
  const blank = (name: WordField) => (words(name)?.commonest.length ?? 0) === 0
  return (
    <>
      <p className="mb-3 text-small text-quiet">{w.describing.goesOnAll(summary.photos)}</p>
      {field('title', 'font-display text-[1.625rem] leading-[1.15] font-[650]', w.plate.noTitle)}
      <div className="mt-2">{field('caption', '', w.plate.noCaption)}</div>
      <p className="mt-3 text-[0.71875rem] text-quiet">{w.plate.altLabel}</p>
      {field('alt', 'text-small text-quiet leading-[1.5]', w.plate.noAlt)}
      <div className="mt-4 border-t border-line pt-3.5 text-small leading-[1.7]">
        {line('credit', w.plate.by, w.plate.noCredit)}
        <Things summary={summary} />
      </div>
      <div className="mt-3.5 border-t border-line pt-3.5 text-small leading-[1.7]">
        <Taken summary={summary} onSay={(taken) => describe.mutate([{ taken }])} />
        {line('place', w.plate.at, w.plate.noPlace)}
        {seldom
          .filter((name) => all || !blank(name))
          .map((name) => line(name, w.plate.fields[name], w.plate.nothingSaid))}
        {!all && seldom.some(blank) && (
          <Button look="word" className="min-h-7 text-quiet" onClick={() => setAll(true)}>
            {w.plate.seldom(seldom.filter(blank).map((name) => w.plate.fields[name]))}
          </Button>
        )}
      </div>
    </>
  )
}

/** One word of many photos: written when one leaves it, and only if it was changed. */
function SharedField({
  said,
  of,
  look,
  placeholder,
  onWrite,
}: {
  said: Api['WordSummary']
  of: number
  look: string
  placeholder: string
  onWrite: (text: string) => void
}) {
  const same = said.values === 1 ? (said.commonest[0]?.value ?? '') : null
  const [typed, setTyped] = useState<string | null>(null)
  // What is written comes back as what all of them say.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when the server says something else.
  useEffect(() => setTyped(null), [same, said.values])
  const lines = said.field === 'caption' || said.field === 'alt'
  // What only one of them says is not common.
  const commonest = said.commonest.find((value) => value.photos > 1 || of < 3)
  function leave() {
    if (typed !== null && typed !== (same ?? '')) onWrite(typed)
    else setTyped(null)
  }
  return (
    <>
      <textarea
        aria-label={w.plate.fields[said.field]}
        className={`in-place ${look}`}
        rows={1}
        placeholder={same === null ? w.describing.differs(said.values) : placeholder}
        value={typed ?? same ?? ''}
        onChange={(e) => setTyped(lines ? e.target.value : e.target.value.replaceAll('\n', ' '))}
        onBlur={leave}
        onKeyDown={(e: KeyboardEvent<HTMLTextAreaElement>) => {
          if (e.key === 'Escape') {
            e.stopPropagation()
            setTyped(null)
            e.currentTarget.blur()
          } else if (e.key === 'Enter' && (!lines || e.ctrlKey)) {
            e.preventDefault()
            e.currentTarget.blur()
          }
        }}
      />
      {same === null && typed === null && commonest && (
        <p className="text-[0.71875rem] leading-snug text-quiet">
          “{commonest.value.length > 60 ? `${commonest.value.slice(0, 60)}…` : commonest.value}”{' '}
          {w.describing.on(commonest.photos, of)}{' '}
          <Button
            look="word"
            aria-label={`${w.describing.onAll}: ${w.plate.fields[said.field]}`}
            onClick={() => onWrite(commonest.value)}
          >
            {w.describing.onAll}
          </Button>
        </p>
      )}
    </>
  )
}

function Taken({
  summary,
  onSay,
}: {
  summary: Api['WordsSummary']
  onSay: (taken: Api['PlateTaken']) => void
}) {
  const { takenFirst: first, takenLast: last } = summary
  const says = () => {
    if (!first || !last) return w.plate.noDate
    return first === last ? takenAt(first) : w.narrowing.span(takenAt(first), takenAt(last))
  }
  return (
    <p>
      <span className="text-quiet">{w.plate.taken}</span>{' '}
      <TakenWord says={says()} taken={first} offset={null} onSay={onSay} />
    </p>
  )
}

/** Tags, people and categories: how many have each; added to all or taken off all, others are left as they are. */
function Things({ summary }: { summary: Api['WordsSummary'] }) {
  const away = w.errors.away
  const describe = useDescribe()
  const tag = useAct(
    async (c: { add: string[]; remove: string[]; name: string }) =>
      body(
        api.POST('/api/photos/tags', { body: { ...(await hand.reach()), add: c.add, remove: c.remove } }),
        away,
      ),
    (done, c) =>
      tellDone(
        c.add.length > 0 ? w.hand.tagged(done.photos, c.name) : w.hand.untagged(done.photos, c.name),
        done,
      ),
  )
  const categorise = useAct(
    async (c: { add: string[]; remove: string[]; name: string }) =>
      body(
        api.POST('/api/photos/categories', {
          body: { ...(await hand.reach()), add: c.add, remove: c.remove },
        }),
        away,
      ),
    (done, c) =>
      tellDone(
        c.add.length > 0
          ? w.hand.categorised(done.photos, c.name)
          : w.hand.uncategorised(done.photos, c.name),
        done,
      ),
  )
  const of = summary.looked
  const person = (add: string[], remove: string[]) => describe.mutate([{ people: { add, remove } }])
  const onAll = (things: readonly Api['SharedThing'][]) =>
    things.filter((t) => t.photos === of).map((t) => t.name)
  return (
    <>
      <SharedThings
        label={w.plate.shows}
        things={summary.tags}
        of={of}
        add={w.plate.addTag}
        onAll={(t) => tag.mutate({ add: [t.name], remove: [], name: t.name })}
        onNone={(t) => tag.mutate({ add: [], remove: [t.id], name: t.name })}
        chooser={
          <TagChooser
            mine={onAll(summary.tags)}
            onAdd={(name) => tag.mutate({ add: [name], remove: [], name })}
          />
        }
      />
      <SharedThings
        label={w.plate.people}
        things={summary.people}
        of={of}
        add={w.plate.addPerson}
        onAll={(t) => person([t.name], [])}
        onNone={(t) => person([], [t.name])}
        chooser={<PersonChooser mine={onAll(summary.people)} onAdd={(name) => person([name], [])} />}
      />
      <SharedThings
        label={w.plate.category}
        things={summary.categories}
        of={of}
        add={w.plate.addCategory}
        onAll={(t) => categorise.mutate({ add: [t.id], remove: [], name: t.name })}
        onNone={(t) => categorise.mutate({ add: [], remove: [t.id], name: t.name })}
        chooser={
          <CategoryChooser
            mine={summary.categories.filter((c) => c.photos === of).map((c) => c.id)}
            onAdd={(c) => categorise.mutate({ add: [c.id], remove: [], name: c.path })}
          />
        }
      />
    </>
  )
}
