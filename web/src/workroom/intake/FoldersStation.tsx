import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { useAct } from '../shell/data'
import { moment } from '../shell/format'
import { tell } from '../shell/news'
import { Heading } from '../shell/Station'

const key = ['watched-folders']

/** Folders on the server whose files come in by themselves. */
export function FoldersStation() {
  const client = useQueryClient()
  const list = useQuery({
    queryKey: key,
    queryFn: () => body(api.GET('/api/watched-folders'), w.errors.away),
    refetchInterval: 5000,
  }).data
  const read = () => void client.invalidateQueries({ queryKey: key })
  const stop = useAct(
    (folder: Api['WatchedFolder']) =>
      body(
        api.DELETE('/api/watched-folders/{folder}', { params: { path: { folder: folder.id } } }),
        w.errors.away,
      ),
    (_, folder) => {
      read()
      tell({ text: w.folders.stopped(folder.path) })
    },
  )
  if (!list) return null
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.folders.title} lead={w.folders.lead(list.root)} />
      <Add choices={list.choices} onAdded={read} />
      {list.folders.length === 0 ? (
        <p className="mt-8 text-quiet">{w.folders.none}</p>
      ) : (
        <ul className="mt-8">
          {list.folders.map((f) => (
            <li
              key={f.id}
              className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-baseline gap-x-6 border-t border-line py-2.5"
            >
              <span className="min-w-0">
                <strong className="block truncate">
                  {f.path.startsWith(list.root) ? f.path.slice(list.root.length + 1) || f.path : f.path}
                </strong>
                <span className="text-small text-quiet">
                  {f.subfolders ? w.folders.subfolders : w.folders.noSubfolders}
                  {f.becomes && `; ${w.folders.becomes.toLowerCase()} ${w.folders.become[f.becomes]}`}
                </span>
              </span>
              <span className="text-small">
                {f.problem ? (
                  <span className="font-semibold">{f.problem}</span>
                ) : (
                  <>
                    {w.folders.taken(f.taken)}
                    <span className="text-quiet">
                      , {f.looked ? w.folders.looked(moment(f.looked)) : w.folders.neverLooked}
                    </span>
                  </>
                )}
              </span>
              <Button look="word" onClick={() => stop.mutate(f)}>
                {w.folders.stop}
              </Button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

function Add({ choices, onAdded }: { choices: readonly string[]; onAdded: () => void }) {
  const [folder, setFolder] = useState<string>()
  const [subfolders, setSubfolders] = useState(true)
  const [becomes, setBecomes] = useState('')
  const chosen = folder !== undefined && choices.includes(folder) ? folder : choices[0]
  const add = useAct(
    (name: string) =>
      body(api.POST('/api/watched-folders', { body: { folder: name, subfolders, becomes } }), w.errors.away),
    (_, name) => {
      onAdded()
      tell({ text: w.folders.watching(name) })
    },
  )
  if (chosen === undefined) return <p className="mt-6 text-quiet">{w.folders.noChoice}</p>
  const select = 'cursor-pointer bg-transparent font-semibold'
  return (
    <div className="mt-6 flex flex-wrap items-baseline gap-x-6 gap-y-2 border-y border-line py-4">
      <label className="flex items-baseline gap-1.5">
        <span className="text-quiet">{w.folders.which}</span>
        <select className={select} value={chosen} onChange={(e) => setFolder(e.target.value)}>
          {choices.map((c) => (
            <option key={c} className="bg-raised">
              {c}
            </option>
          ))}
        </select>
      </label>
      <select
        className={select}
        aria-label={w.folders.subfolders}
        value={subfolders ? 'with' : 'without'}
        onChange={(e) => setSubfolders(e.target.value === 'with')}
      >
        <option value="with" className="bg-raised">
          {w.folders.subfolders}
        </option>
        <option value="without" className="bg-raised">
          {w.folders.noSubfolders}
        </option>
      </select>
      <label className="flex items-baseline gap-1.5">
        <span className="text-quiet">{w.folders.becomes}</span>
        <select className={select} value={becomes} onChange={(e) => setBecomes(e.target.value)}>
          {Object.entries(w.folders.become).map(([name, says]) => (
            <option key={name} value={name} className="bg-raised">
              {says}
            </option>
          ))}
        </select>
      </label>
      <Button look="next" className="ml-auto" onClick={() => add.mutate(chosen)}>
        {w.folders.watch}
      </Button>
    </div>
  )
}
