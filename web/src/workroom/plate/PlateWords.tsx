import { type KeyboardEvent, type ReactNode, useState } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { Categories, People, Tags } from './PlateThings'
import { TakenWords } from './TakenWords'
import { type Field, type Saving, usePlateWords } from './usePlateWords'

const names = w.plate.fields
/** Folded until one of them says something: rights, and where it came from. */
const seldom = ['creator', 'copyright', 'licence', 'origin', 'link'] as const

function says(saving: Saving) {
  if (saving === 'saving') return w.plate.saving
  if (saving === 'saved') return w.plate.saved
  if (saving === 'unsaved') return w.plate.unsaved
  if (saving === 'stale') return w.plate.stale
  return typeof saving === 'object' ? `${w.plate.unsaved} ${saving.problem}` : ''
}

/** A photo's words, each edited where it stands. */
export function PlateWords({ plate }: { plate: Api['Plate'] }) {
  const edit = usePlateWords(plate)
  const [all, setAll] = useState(false)
  function line(name: Field, label: ReactNode, placeholder: string) {
    return (
      <div key={name} className="grid grid-cols-[auto_minmax(0,1fr)] items-baseline gap-x-1.5">
        <span className="text-quiet">{label}</span>
        {field(name, placeholder, '!my-0 !ml-0 !w-full', false)}
      </div>
    )
  }
  function field(name: Field, placeholder: string, look: string, lines: boolean) {
    return (
      <textarea
        aria-label={names[name]}
        className={`in-place ${look}`}
        rows={1}
        placeholder={placeholder}
        value={edit.words[name]}
        spellCheck
        onChange={(e) => edit.type(name, lines ? e.target.value : e.target.value.replaceAll('\n', ' '))}
        onBlur={edit.flush}
        onKeyDown={(e: KeyboardEvent<HTMLTextAreaElement>) => {
          if (e.key === 'Escape' || (e.key === 'Enter' && !lines)) {
            e.preventDefault()
            e.stopPropagation()
            e.currentTarget.blur()
          }
        }}
      />
    )
  }
  return (
    <>
      {field('title', w.plate.noTitle, 'font-display text-[1.625rem] leading-[1.15] font-[650]', false)}
      <div className="mt-2">{field('caption', w.plate.noCaption, '', true)}</div>
      <p className="mt-3 text-[0.71875rem] text-quiet">{w.plate.altLabel}</p>
      {field('alt', w.plate.noAlt, 'text-small text-quiet leading-[1.5]', true)}
      <div role="status" className="mt-1 min-h-5 text-[0.71875rem] text-quiet">
        {says(edit.saving)}
      </div>
      {edit.saving === 'stale' && (
        <div className="mb-3 border-l-[3px] border-plum pl-3 text-small">
          {edit.conflicts.map((name) => (
            <p key={name} className="mb-2">
              <span className="text-quiet">
                {names[name]}. {w.plate.theirs}:
              </span>{' '}
              {plate[name] || w.plate.blank}
            </p>
          ))}
          <span className="flex gap-4">
            <Button look="word" onClick={edit.keepMine}>
              {w.plate.keepMine}
            </Button>
            <Button look="word" onClick={edit.takeTheirs}>
              {w.plate.takeTheirs}
            </Button>
          </span>
        </div>
      )}
      <div className="border-t border-line pt-3.5 text-small leading-[1.7]">
        {line('credit', w.plate.by, plate.creator || w.plate.noCredit)}
        <Tags tags={edit.tags} onAdd={edit.addTag} onRemove={edit.removeTag} />
        <People people={edit.people} onAdd={edit.addPerson} onRemove={edit.removePerson} />
        <Categories categories={edit.categories} onAdd={edit.addCategory} onRemove={edit.removeCategory} />
      </div>
      <div className="mt-3.5 border-t border-line pt-3.5 text-small leading-[1.7]">
        <TakenWords
          taken={edit.taken}
          offset={edit.offset}
          hasPosition={edit.hasPosition}
          onSay={(taken) => edit.say({ taken })}
          onPlace={(position) => edit.say({ position })}
        />
        {line('place', w.plate.at, w.plate.noPlace)}
        {seldom
          .filter((name) => all || edit.words[name])
          .map((name) => line(name, names[name], w.plate.nothingSaid))}
        {!all && seldom.some((name) => !edit.words[name]) && (
          <Button look="word" className="min-h-7 text-quiet" onClick={() => setAll(true)}>
            {w.plate.seldom(seldom.filter((name) => !edit.words[name]).map((name) => names[name]))}
          </Button>
        )}
      </div>
    </>
  )
}
