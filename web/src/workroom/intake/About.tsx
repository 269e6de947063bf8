import { useState } from 'react'
import type { Api } from '../../api/client'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAlbums, useCategories, useMakeAlbum, useTags } from '../shell/data'

type Said = Api['IntakeAbout']

const asked = 'underline decoration-strong-line decoration-1 underline-offset-4'

/** What is said once of all that an intake brings, set as a sentence: where it goes, and the words put on every photo. */
export function About({ said, onSay }: { said: Said; onSay: (said: Said) => void }) {
  return (
    <section aria-label={w.intake.about.label} className="max-w-[54rem]">
      <p className="leading-[1.9]">
        <span className="text-quiet">{w.intake.about.goTo}</span> <InAlbum said={said} onSay={onSay} />
        <span className="mx-2.5 text-quiet" aria-hidden>
          ·
        </span>
        <Categories said={said} onSay={onSay} />
        <span className="mx-2.5 text-quiet" aria-hidden>
          ·
        </span>
        <Tags said={said} onSay={onSay} />
      </p>
      <div className="mt-1.5 grid grid-cols-2 gap-x-10 text-small max-xl:grid-cols-1">
        {(['credit', 'copyright', 'licence', 'origin'] as const).map((name) => (
          <Line key={name} name={name} said={said} onSay={onSay} />
        ))}
      </div>
    </section>
  )
}

type PartProps = { said: Said; onSay: (said: Said) => void }

function InAlbum({ said, onSay }: PartProps) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const albums = useAlbums().data ?? []
  function choose(album: string | null) {
    onSay({ ...said, album })
    setOpen(false)
    setTyped('')
  }
  const make = useMakeAlbum((made) => choose(made.id))
  const name = albums.find((a) => a.id === said.album)?.workingName
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.intake.about.goTo}
      trigger={
        <button type="button" className={`font-semibold ${asked}`}>
          {said.album ? (name ?? '…') : w.intake.about.noAlbum}
        </button>
      }
    >
      <Chooser
        label={w.intake.about.goTo}
        typed={typed}
        onType={setTyped}
        choices={[
          { key: '', name: w.intake.about.noAlbum },
          ...albums.map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) })),
        ]}
        onChoose={(choice) => choose(choice.key || null)}
        onNew={(made) => make.mutate(made)}
        newLabel={(made) => `${w.hand.newAlbum} “${made}”`}
      />
    </Popover>
  )
}

function Taken({ name, onRemove }: { name: string; onRemove: () => void }) {
  return (
    <button
      type="button"
      className="mr-1.5 font-semibold hover:line-through"
      aria-label={w.intake.about.remove(name)}
      title={w.intake.about.remove(name)}
      onClick={onRemove}
    >
      {name}
    </button>
  )
}

function Categories({ said, onSay }: PartProps) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const categories = useCategories().data ?? []
  return (
    <>
      {said.categories.map((id) => (
        <Taken
          key={id}
          name={categories.find((c) => c.id === id)?.name ?? '…'}
          onRemove={() => onSay({ ...said, categories: said.categories.filter((c) => c !== id) })}
        />
      ))}
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.intake.about.addCategory}
        trigger={
          <button type="button" className={asked}>
            {w.intake.about.addCategory}
          </button>
        }
      >
        <Chooser
          label={w.intake.about.addCategory}
          typed={typed}
          onType={setTyped}
          choices={categories
            .filter((c) => !said.categories.includes(c.id))
            .map((c) => ({ key: c.id, name: c.name, depth: c.depth }))}
          onChoose={(choice) => {
            onSay({ ...said, categories: [...said.categories, choice.key] })
            setOpen(false)
            setTyped('')
          }}
        />
      </Popover>
    </>
  )
}

function Tags({ said, onSay }: PartProps) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const tags = useTags(typed).data ?? []
  function add(name: string) {
    if (!said.tags.some((t) => t.toLowerCase() === name.toLowerCase()))
      onSay({ ...said, tags: [...said.tags, name] })
    setOpen(false)
    setTyped('')
  }
  return (
    <>
      {said.tags.map((tag) => (
        <Taken
          key={tag}
          name={tag}
          onRemove={() => onSay({ ...said, tags: said.tags.filter((t) => t !== tag) })}
        />
      ))}
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.intake.about.addTag}
        trigger={
          <button type="button" className={asked}>
            {w.intake.about.addTag}
          </button>
        }
      >
        <Chooser
          label={w.intake.about.addTag}
          typed={typed}
          onType={setTyped}
          choices={tags.map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
          onChoose={(choice) => add(choice.name)}
          onNew={add}
          newLabel={(name) => `${w.hand.tag} “${name}”`}
        />
      </Popover>
    </>
  )
}

function Line({ name, said, onSay }: PartProps & { name: 'credit' | 'copyright' | 'licence' | 'origin' }) {
  const [typed, setTyped] = useState<string | null>(null)
  const label = w.intake.about[name]
  return (
    <label className="grid grid-cols-[5.5rem_minmax(0,1fr)] items-baseline py-0.5">
      <span className="text-quiet">{label}</span>
      <input
        className="in-place"
        placeholder={
          name === 'credit' || name === 'copyright' ? w.intake.about.asInFile : w.intake.about.notSaid
        }
        value={typed ?? said[name]}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={() => {
          if (typed !== null && typed.trim() !== said[name]) onSay({ ...said, [name]: typed.trim() })
          setTyped(null)
        }}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
    </label>
  )
}
