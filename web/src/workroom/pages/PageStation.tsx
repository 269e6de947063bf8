import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useParams } from '@tanstack/react-router'
import { useCallback, useRef, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { flat } from './blocks/blocks'
import { PageHead } from './PageHead'
import { Preview, type PreviewHandle } from './Preview'
import { RunningOrder } from './RunningOrder'
import { useTyping } from './typing/typing'
import { usePageDraft } from './usePageDraft'
import { Weights } from './Weights'

const away = w.errors.away

/** One page being made: its running order beside the real page in a frame. */
export function PageStation() {
  const { page: id } = useParams({ from: '/workroom/pages/$page' })
  const page = useQuery({
    queryKey: ['pages', id],
    queryFn: () => body(api.GET('/api/pages/{page}', { params: { path: { page: id } } }), away),
  })
  if (page.error && !page.data) return <p className="p-10">{page.error.message}</p>
  return page.data ? <Opened key={id} page={page.data} /> : null
}

function Opened({ page }: { page: Api['OpenedPage'] }) {
  const draft = usePageDraft(page)
  const [open, setOpen] = useState<string | null>(null)
  const [looking, setLooking] = useState<number | null>(null)
  const preview = useRef<PreviewHandle>(null)
  const typing = useTyping(draft, () => preview.current?.toTypeOn() ?? null)
  const notes = useQuery({
    queryKey: ['pages', page.id, 'notes', page.edited],
    queryFn: () => body(api.GET('/api/pages/{page}/notes', { params: { path: { page: page.id } } }), away),
    placeholderData: keepPreviousData,
  }).data
  const { begin, end } = typing
  const press = useCallback(
    (block: string, isTyped: boolean) => {
      setOpen(block)
      if (isTyped) begin(block)
      else end()
    },
    [begin, end],
  )
  return (
    <div className="grid h-full grid-cols-[430px_minmax(0,1fr)] max-lg:h-auto max-lg:grid-cols-1">
      <div className="overflow-y-auto border-r border-line px-[26px] pt-7 pb-10">
        {/* biome-ignore lint/a11y/noStaticElementInteractions: who goes on to the head of the page is done with typing on it. */}
        <div onFocus={() => typing.block && end()}>
          <PageHead page={page} draft={draft} notes={notes ?? null} looking={looking} onLook={setLooking} />
        </div>
        <RunningOrder
          page={page.id}
          draft={draft}
          notes={notes ?? null}
          open={open}
          typing={typing}
          onOpen={(block) => {
            end()
            setLooking(null)
            setOpen(block)
          }}
        />
        {notes && <Weights weights={notes.weights} />}
      </div>
      <Preview
        ref={preview}
        page={page.id}
        version={page.edited}
        title={draft.edit.draft.title}
        open={open}
        typing={typing.block}
        looking={looking}
        hasButtons={flat(draft.blocks).some(
          (b) => b.kind === 'photos' && !b.bar.off && b.bar.groups.some((g) => g.buttons.length > 0),
        )}
        hasPhotos={flat(draft.blocks).some((b) => b.kind === 'photos')}
        hasGrounds={flat(draft.blocks).some((b) => b.frame.ground.kind !== 'none')}
        onDraft={() => setLooking(null)}
        onLoaded={typing.loaded}
        onPress={press}
      />
    </div>
  )
}
