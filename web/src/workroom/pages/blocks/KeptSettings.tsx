import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { Popover } from '../../../kit/Popover'
import { w } from '../../../words'
import { useAct } from '../../shell/data'
import { tell, tellDone, tellProblem } from '../../shell/news'
import type { Block } from './blocks'

const away = w.errors.away

/** Settings that are kept under names for blocks of this kind: used here, kept from here, let go. */
export function KeptSettings({ block, onSay }: { block: Block; onSay: (block: Block) => void }) {
  const [open, setOpen] = useState(false)
  const [name, setName] = useState('')
  const now = useRef(block)
  now.current = block
  const kept = useQuery({
    queryKey: ['kept-settings'],
    queryFn: async () => (await body(api.GET('/api/kept-settings'), away)).settings,
    enabled: open,
  }).data?.filter((k) => k.kind === block.kind)
  const keep = useAct(
    (said: string) =>
      body(api.POST('/api/kept-settings', { body: { name: said, block: now.current } }), away),
    (done, said) => {
      setName('')
      tellDone(w.kept.kept(said), done)
    },
  )
  const letGo = useAct(
    (settings: { id: string; name: string }) =>
      body(
        api.DELETE('/api/kept-settings/{settings}', { params: { path: { settings: settings.id } } }),
        away,
      ),
    (done, settings) => tellDone(w.kept.letGone(settings.name), done),
  )
  async function use(settings: { id: string; name: string }) {
    try {
      let began: Block
      let set: Block
      // What is typed meanwhile is not taken back: then it is asked for once more.
      do {
        began = now.current
        const path = { settings: settings.id }
        set = (
          await body(
            api.POST('/api/kept-settings/{settings}/on', { params: { path }, body: { block: began } }),
            away,
          )
        ).block
      } while (now.current !== began)
      onSay(set)
      setOpen(false)
      tell({ text: w.kept.used(settings.name) })
    } catch (problem) {
      tellProblem(problem)
    }
  }
  const again = kept?.some((k) => k.name.toLowerCase() === name.trim().toLowerCase())
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.kept.label}
      trigger={<Button look="word">{w.kept.verb}</Button>}
    >
      <div className="grid gap-3 text-small">
        {kept && kept.length > 0 && (
          <ul aria-label={w.kept.list} className="grid max-h-56 gap-0.5 overflow-y-auto">
            {kept.map((k) => (
              <li key={k.id} className="flex items-baseline justify-between gap-3">
                <button
                  type="button"
                  className="min-h-7 min-w-0 truncate text-left font-semibold hover:underline hover:underline-offset-4"
                  title={w.kept.use(k.name)}
                  aria-label={w.kept.use(k.name)}
                  onClick={() => void use(k)}
                >
                  {k.name}
                </button>
                <Button look="word" aria-label={w.kept.letGoOf(k.name)} onClick={() => letGo.mutate(k)}>
                  {w.kept.letGo}
                </Button>
              </li>
            ))}
          </ul>
        )}
        {kept?.length === 0 && <p className="text-quiet">{w.kept.none}</p>}
        <form
          className="flex items-end gap-4"
          onSubmit={(e) => {
            e.preventDefault()
            if (name.trim()) keep.mutate(name.trim())
          }}
        >
          <label className="grid min-w-0 flex-1 gap-1">
            <span className="text-quiet">{w.kept.name}</span>
            <input
              value={name}
              maxLength={80}
              className="w-full min-w-0 border-b border-strong-line bg-transparent py-1 text-body outline-none focus:border-plum"
              onChange={(e) => setName(e.target.value)}
            />
          </label>
          <Button look="next" type="submit" disabled={!name.trim() || keep.isPending}>
            {again ? w.kept.again : w.kept.keep}
          </Button>
        </form>
      </div>
    </Popover>
  )
}
