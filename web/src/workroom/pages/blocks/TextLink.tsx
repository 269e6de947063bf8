import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { Chooser } from '../../../kit/Chooser'
import { Popover } from '../../../kit/Popover'
import { w } from '../../../words'
import { useAlbums, useCategories, usePages } from '../../shell/data'
import type { Typing } from '../typing/typing'

/** Makes a link of what is marked on the page: to one's own pages, albums, categories and files by name, or to an address. */
export function TextLink({ typing }: { typing: Typing }) {
  const [open, setOpen] = useState(false)
  const [typed, setTyped] = useState('')
  const pages = usePages().data ?? []
  const albums = useAlbums().data ?? []
  const categories = useCategories().data ?? []
  const files =
    useQuery({
      queryKey: ['files', 'choice', undefined, ''],
      queryFn: () => body(api.GET('/api/files', { params: { query: { typed: '' } } }), w.errors.away),
      enabled: open,
    }).data?.files ?? []
  const choices = [
    ...pages.map((p) => ({ key: `/${p.address}`, name: p.title, note: w.link.kinds.page })),
    ...albums.map((a) => ({
      key: `/album/${a.standing.address}`,
      name: a.title || a.workingName,
      note: w.link.kinds.album,
    })),
    ...categories.map((c) => ({
      key: `/category/${c.page.address}`,
      name: c.name,
      note: w.link.kinds.category,
    })),
    ...files.map((f) => ({
      key: f.path,
      name: f.fileName,
      note: w.link.kinds.file,
    })),
  ]
  function lead(to: string) {
    setOpen(false)
    setTyped('')
    typing.link(to)
  }
  return (
    <>
      <Popover
        open={open}
        onOpenChange={setOpen}
        label={w.text.linkTo}
        onClosed={() => {
          typing.focus()
          return true
        }}
        trigger={<Button look="word">{w.text.link}</Button>}
      >
        <Chooser
          label={w.text.linkTo}
          typed={typed}
          onType={setTyped}
          choices={choices}
          onChoose={(choice) => lead(choice.key)}
          {...(/^(https?:\/\/|mailto:|\/)/.test(typed.trim()) && {
            onNew: lead,
            newLabel: (to: string) => to,
          })}
        />
      </Popover>
      {typing.on('link') && (
        <Button look="word" onClick={() => typing.link(null)}>
          {w.text.noLink}
        </Button>
      )}
    </>
  )
}
