import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Chooser } from '../../kit/Chooser'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { useAct, useAlbums, useCategories, useMakeAlbum, useTags } from '../shell/data'
import { hand } from '../shell/hand'
import { tellDone } from '../shell/news'

const away = w.errors.away

type VerbProps = { open: boolean; onOpenChange: (open: boolean) => void }

/** Puts what is in hand into an album, there or new. */
export function PutInAlbum({ open, onOpenChange }: VerbProps) {
  const [typed, setTyped] = useState('')
  const albums = useAlbums().data ?? []
  const put = useAct(
    async ({ album }: { album: Pick<Api['AlbumLine'], 'id' | 'workingName'> }) =>
      body(
        api.POST('/api/albums/{album}/photos', {
          params: { path: { album: album.id } },
          body: await hand.reach(),
        }),
        away,
      ),
    ({ done }, { album }) => {
      onOpenChange(false)
      tellDone(w.hand.put_(done.photos, album.workingName), done)
    },
  )
  const make = useMakeAlbum((album) => put.mutate({ album }))
  return (
    <Popover
      open={open}
      onOpenChange={(now) => {
        setTyped('')
        onOpenChange(now)
      }}
      label={w.hand.put}
      trigger={
        <Button look="word" hint="A">
          {w.hand.put}
        </Button>
      }
    >
      <Chooser
        label={w.hand.putInto}
        typed={typed}
        onType={setTyped}
        choices={albums.map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) }))}
        onChoose={(choice) => put.mutate({ album: { id: choice.key, workingName: choice.name } })}
        onNew={(name) => make.mutate(name)}
        newLabel={(name) => `${w.hand.newAlbum} “${name}”`}
      />
    </Popover>
  )
}

/** Throws what is in hand in the bin. It can be undone, so nothing is asked first. */
export function useThrow() {
  return useAct(
    async () => body(api.POST('/api/bin', { body: await hand.reach() }), away),
    (done) => {
      hand.clear()
      tellDone(w.bin.threw(done.photos), done)
    },
  )
}

/** Tags what is in hand, or takes a tag off it. */
export function TagThem({ open, onOpenChange }: VerbProps) {
  const [typed, setTyped] = useState('')
  const [off, setOff] = useState(false)
  const tags = useTags(typed).data ?? []
  const change = useAct(
    async (c: { add: string[]; remove: string[]; name: string }) =>
      body(
        api.POST('/api/photos/tags', { body: { ...(await hand.reach()), add: c.add, remove: c.remove } }),
        away,
      ),
    (done, c) => {
      onOpenChange(false)
      tellDone(
        c.add.length > 0 ? w.hand.tagged(done.photos, c.name) : w.hand.untagged(done.photos, c.name),
        done,
      )
    },
  )
  return (
    <Popover
      open={open}
      onOpenChange={(now) => {
        setTyped('')
        setOff(false)
        onOpenChange(now)
      }}
      label={w.hand.tag}
      trigger={
        <Button look="word" hint="T">
          {w.hand.tag}
        </Button>
      }
    >
      <Chooser
        label={off ? w.hand.removeTag : w.hand.addTag}
        typed={typed}
        onType={setTyped}
        choices={tags.map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
        onChoose={(choice) =>
          change.mutate(
            off
              ? { add: [], remove: [choice.key], name: choice.name }
              : { add: [choice.name], remove: [], name: choice.name },
          )
        }
        {...(!off && {
          onNew: (name: string) => change.mutate({ add: [name], remove: [], name }),
          newLabel: (name: string) => `${w.hand.tag} “${name}”`,
        })}
      />
      <Button look="word" className="mt-3 text-small" onClick={() => setOff(!off)}>
        {off ? w.hand.addTag : w.hand.removeTag}
      </Button>
    </Popover>
  )
}

/** Puts what is in hand into a category, or takes it out. */
export function CategoriseThem({ open, onOpenChange }: VerbProps) {
  const [typed, setTyped] = useState('')
  const [off, setOff] = useState(false)
  const categories = useCategories().data ?? []
  const change = useAct(
    async (c: { id: string; name: string; off: boolean }) =>
      body(
        api.POST('/api/photos/categories', {
          body: { ...(await hand.reach()), add: c.off ? [] : [c.id], remove: c.off ? [c.id] : [] },
        }),
        away,
      ),
    (done, c) => {
      onOpenChange(false)
      tellDone(
        c.off ? w.hand.uncategorised(done.photos, c.name) : w.hand.categorised(done.photos, c.name),
        done,
      )
    },
  )
  return (
    <Popover
      open={open}
      onOpenChange={(now) => {
        setTyped('')
        setOff(false)
        onOpenChange(now)
      }}
      label={w.hand.category}
      trigger={
        <Button look="word" hint="G">
          {w.hand.category}
        </Button>
      }
    >
      <Chooser
        label={off ? w.hand.removeTag : w.hand.category}
        typed={typed}
        onType={setTyped}
        choices={categories.map((c) => ({
          key: c.id,
          name: c.name,
          depth: c.depth,
          note: w.count(c.photos),
        }))}
        onChoose={(choice) => change.mutate({ id: choice.key, name: choice.name, off })}
      />
      <Button look="word" className="mt-3 text-small" onClick={() => setOff(!off)}>
        {off ? w.hand.category : w.hand.removeTag}
      </Button>
    </Popover>
  )
}
