import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { join } from '../narrowings/narrowing'
import { useAct } from '../shell/data'
import { day } from '../shell/format'
import { tellDone } from '../shell/news'
import { ClearForm, type Consent } from './ClearForm'

type Person = Api['PersonLine']

const version = (person: Person) => ({ header: { 'If-Match': person.version } })

/** Writes what a person says. */
export function usePersonSays(person: Person, onDone: () => void) {
  return useAct(
    (next: Consent) =>
      body(
        api.PUT('/api/clearance/persons', {
          params: version(person),
          body: { name: person.name, says: next.says, by: next.by, until: next.until || null },
        }),
        w.errors.away,
      ),
    (done) => {
      onDone()
      tellDone(`${w.clearance.wrote(person.name)}${w.clearance.reaches(done.photos)}`, done)
    },
    'clearance',
  )
}

/** One person: a photo of them, and what they say, pressed to write it anew. */
export function PersonRow({ person }: { person: Person }) {
  const [open, setOpen] = useState(false)
  const write = usePersonSays(person, () => setOpen(false))
  const strike = useAct(
    () =>
      body(
        api.DELETE('/api/clearance/persons', {
          params: { query: { name: person.name }, ...version(person) },
        }),
        w.errors.away,
      ),
    (done) => {
      setOpen(false)
      tellDone(`${w.clearance.struck(person.name)}${w.clearance.reaches(done.photos)}`, done)
    },
    'clearance',
  )
  const said = person.says === 'ended' ? 'yes' : person.says
  return (
    <li className="grid min-h-[4.25rem] grid-cols-[4.5rem_minmax(0,1fr)_minmax(0,1.4fr)] items-center gap-x-5 border-t border-line py-2">
      <span className="grid h-12 w-[4.5rem] place-items-center">
        {person.picture ? (
          <img
            src={rendition(person.picture, 480)}
            width={person.width}
            height={person.height}
            alt=""
            loading="lazy"
            className="h-auto max-h-12 w-auto max-w-[4.5rem]"
          />
        ) : (
          <span aria-hidden className="h-px w-6 bg-strong-line" />
        )}
      </span>
      <span className="min-w-0">
        <span className="block truncate font-semibold">{person.name}</span>
        {person.photos > 0 ? (
          <Link
            to="/workroom/photos"
            search={{ people: join([person.name]) }}
            className="text-small text-quiet underline decoration-line underline-offset-4 hover:text-ink"
          >
            {w.photos(person.photos)}
          </Link>
        ) : (
          <span className="text-small text-quiet">{w.clearance.noPhotos}</span>
        )}
      </span>
      <span className="min-w-0">
        <span className="flex flex-wrap items-baseline gap-x-4">
          <Popover
            open={open}
            onOpenChange={setOpen}
            label={w.clearance.of(person.name)}
            trigger={
              <button
                type="button"
                className={`min-h-6 text-left underline decoration-strong-line decoration-1 underline-offset-4 hover:decoration-ink ${person.says === '' ? 'text-quiet' : ''}`}
              >
                <span className={person.says === 'no' ? 'font-semibold' : ''}>
                  {w.clearance.says[person.says]}
                </span>
                {person.until && `, ${w.clearance.until(day(person.until))}`}
              </button>
            }
          >
            <ClearForm
              now={{ says: said, until: person.until ?? '', by: person.by }}
              yes="yes"
              choices={[
                ['yes', w.clearance.choose.yes],
                ['no', w.clearance.choose.no],
                ['', w.clearance.choose['']],
              ]}
              verb={w.clearance.write}
              onWrite={(next) => write.mutate(next)}
              pending={write.isPending}
            />
            {person.version > 0 && (
              <Button look="word" className="mt-3" onClick={() => strike.mutate(undefined)}>
                {w.clearance.strike}
              </Button>
            )}
          </Popover>
          {person.says === '' && (
            <span className="flex gap-3 text-small">
              {(['yes', 'no'] as const).map((says) => (
                <Button
                  key={says}
                  look="word"
                  aria-label={`${person.name}: ${w.clearance.says[says]}`}
                  onClick={() => write.mutate({ says, until: '', by: person.by })}
                >
                  {w.clearance.says[says]}
                </Button>
              ))}
            </span>
          )}
        </span>
        {person.by && (
          <span className="block text-small text-quiet [overflow-wrap:anywhere]">{person.by}</span>
        )}
      </span>
    </li>
  )
}
