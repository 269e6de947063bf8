import { type Api, api, body } from '../../../api/client'
import { Button } from '../../../kit/Button'
import { ChooserPopover } from '../../../kit/ChooserPopover'
import { WordSelect } from '../../../kit/WordSelect'
import { w } from '../../../words'
import { useAct, useAlbums, useCategories, usePages } from '../../shell/data'
import { OneFile } from './FileSettings'

type Link = Api['LinkTo']
const kinds = ['page', 'album', 'category', 'address'] as const
const withFiles = [...kinds, 'file'] as const

/** Where a press leads: a page, an album, a category or a file by name, or an address. */
export function LinkSentence({
  link,
  files = true,
  onSay,
}: {
  link: Link
  /** It may lead to a file of one's own, which is public with the page then. */
  files?: boolean
  onSay: (link: Link) => void
}) {
  const things = useThings(link.kind)
  const makePage = useAct(
    (title: string) => body(api.POST('/api/pages', { body: { title } }), w.errors.away),
    (made) => onSay({ ...link, thing: made.id }),
  )
  const chosen = things.find((t) => t.key === link.thing)
  return (
    <>
      <WordSelect
        label={w.link.kind}
        value={link.kind}
        choices={(files ? withFiles : kinds).map((kind) => [kind, w.link.kinds[kind]] as const)}
        onChoose={(kind) => onSay({ kind, thing: null, address: link.address })}
      />
      {link.kind === 'file' ? (
        <OneFile file={link.thing} onChoose={(thing) => onSay({ ...link, thing })} />
      ) : link.kind === 'address' ? (
        <input
          key={link.address}
          defaultValue={link.address}
          aria-label={w.link.addressLabel}
          placeholder={w.link.address}
          className="min-w-40 border-b border-strong-line bg-transparent outline-none [field-sizing:content] focus:border-plum"
          onBlur={(e) => {
            const address = e.target.value.trim()
            if (address !== link.address) onSay({ ...link, address })
          }}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      ) : (
        <ChooserPopover
          label={w.link.which}
          trigger={
            <Button look="word" className={chosen ? 'font-semibold' : ''}>
              {chosen?.name ?? (link.thing ? w.source.gone : w.link.choose)}
            </Button>
          }
          choices={things}
          onChoose={(thing) => onSay({ ...link, thing: thing.key })}
          {...(link.kind === 'page' && {
            onNew: (title: string) => makePage.mutate(title),
            newLabel: w.link.makePage,
          })}
        />
      )}
    </>
  )
}

function useThings(kind: Link['kind']) {
  const pages = usePages().data ?? []
  const albums = useAlbums().data ?? []
  const categories = useCategories().data ?? []
  if (kind === 'page')
    return pages.map((p) => ({ key: p.id, name: p.title, note: p.published ? '' : w.pages.draft }))
  if (kind === 'album')
    return albums.map((a) => ({ key: a.id, name: a.workingName, note: w.count(a.photos) }))
  return categories.map((c) => ({ key: c.id, name: c.name, depth: c.depth }))
}
