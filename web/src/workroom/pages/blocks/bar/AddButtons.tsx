import { useState } from 'react'
import type { Api } from '../../../../api/client'
import { Button } from '../../../../kit/Button'
import { ChooserPopover } from '../../../../kit/ChooserPopover'
import { w } from '../../../../words'
import { useAlbums, useCategories, useTags } from '../../../shell/data'
import { type BarButton, button, type Group } from './bar'

/** What a button can be for: a category, a tag, an album, or each of the albums that are joined. */
export function AddButtons({
  source,
  group,
  onAdd,
}: {
  source: Api['PhotosSource']
  /** What it is added to; undefined for the first of a bar. */
  group: Group | undefined
  onAdd: (button: BarButton) => void
}) {
  const [typed, setTyped] = useState('')
  const categories = useCategories().data ?? []
  const tags = useTags(typed).data ?? []
  const albums = useAlbums().data ?? []
  const joins = source.kind === 'albums'
  const has = (thing: string) => group?.buttons.some((b) => b.thing === thing) ?? false
  return (
    <>
      <ChooserPopover
        label={w.bar.whichCategory}
        trigger={<Button look="word">{w.bar.addCategory}</Button>}
        choices={categories
          .filter((c) => !has(c.id))
          .map((c) => ({ key: c.id, name: c.name, depth: c.depth, note: w.count(c.photos) }))}
        onChoose={(c) => onAdd(button('category', c.key))}
      />
      <ChooserPopover
        label={w.bar.whichTag}
        trigger={<Button look="word">{w.bar.addTag}</Button>}
        onType={setTyped}
        choices={tags
          .filter((t) => !has(t.id))
          .map((t) => ({ key: t.id, name: t.name, note: w.count(t.photos) }))}
        onChoose={(t) => onAdd(button('tag', t.key))}
      />
      <ChooserPopover
        label={w.bar.whichAlbum}
        trigger={<Button look="word">{w.bar.addAlbum}</Button>}
        choices={albums
          .filter((a) => !has(a.id) && (!joins || source.albums.includes(a.id)))
          .map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) }))}
        onChoose={(a) => onAdd(button('album', a.key))}
      />
      {joins && !group?.buttons.some((b) => b.kind === 'eachAlbum') && (
        <Button look="word" title={w.bar.eachHow} onClick={() => onAdd(button('eachAlbum', null))}>
          {w.bar.addEach}
        </Button>
      )}
    </>
  )
}
