import { useInfiniteQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useRef, useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { rendition } from '../../kit/renditions'
import { WordTabs } from '../../kit/WordTabs'
import { w } from '../../words'
import { useAct, useSession } from '../shell/data'
import { moment } from '../shell/format'
import { tell, tellDone } from '../shell/news'
import { Empty, Heading } from '../shell/Station'

type State = Api['CommentState']
type Comment = Api['CommentLine']

const states = ['waiting', 'shown', 'refused'] as const satisfies readonly State[]

/** What visitors wrote about photos, to be shown to others or refused. */
export function CommentsStation() {
  const [state, setState] = useState<State>('waiting')
  const list = useInfiniteQuery({
    queryKey: ['comments', state],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/comments', { params: { query: { state, ...(pageParam && { behind: pageParam }) } } }),
        w.errors.away,
      ),
    getNextPageParam: (page) => (page.further ? page.comments.at(-1)?.id : undefined),
  })
  const lines = useRef<HTMLUListElement>(null)
  const decide = useAct(
    ({ comments, shown }: { comments: readonly string[]; shown: boolean }) =>
      body(api.POST('/api/comments/decide', { body: { comments: [...comments], shown } }), w.errors.away),
    (done, { comments, shown }) =>
      tellDone(shown ? w.comments.shown(comments.length) : w.comments.refused(comments.length), done),
    'comments',
  )
  const first = list.data?.pages[0]
  if (!first) return list.error ? <p className="p-10">{list.error.message}</p> : null
  const comments = list.data?.pages.flatMap((p) => p.comments) ?? []
  const counts = { waiting: first.waiting, shown: first.shown, refused: first.refused }
  /** The keyboard stays at the same verb of the comment that follows. */
  const decideOne = (comment: Comment, shown: boolean) => {
    const at = comments.indexOf(comment)
    const next = comments[at + 1] ?? comments[at - 1]
    const verb = `[data-verb="${shown ? 'show' : 'refuse'}"]`
    if (next) lines.current?.querySelector<HTMLElement>(`[data-comment="${next.id}"] ${verb}`)?.focus()
    decide.mutate({ comments: [comment.id], shown })
  }
  const decideAll = (shown: boolean) => decide.mutate({ comments: comments.map((c) => c.id), shown })
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.comments.title}
        lead={w.comments.lead}
        right={
          state === 'waiting' && comments.length > 1 ? (
            <span className="flex items-center gap-5">
              <Button look="word" onClick={() => decideAll(false)}>
                {w.comments.refuseAll(comments.length, list.hasNextPage)}
              </Button>
              <Button onClick={() => decideAll(true)}>
                {w.comments.showAll(comments.length, list.hasNextPage)}
              </Button>
            </span>
          ) : (
            state === 'refused' &&
            comments.length > 0 && <Removal count={counts.refused} most={first.counted} />
          )
        }
      />
      <WordTabs
        label={w.comments.state}
        tabs={states.map((each) => [each, w.comments.states[each](counts[each], first.counted)] as const)}
        chosen={state}
        onChoose={setState}
        className="mt-5"
      />
      {comments.length === 0 ? (
        <Empty title={w.comments.none[state]} lead={state === 'waiting' ? w.comments.noneLead : undefined} />
      ) : (
        <ul ref={lines} className="mt-4 max-w-[62rem]">
          {comments.map((comment) => (
            <Line
              key={comment.id}
              comment={comment}
              onShow={state !== 'shown' ? () => decideOne(comment, true) : undefined}
              onRefuse={state !== 'refused' ? () => decideOne(comment, false) : undefined}
            />
          ))}
        </ul>
      )}
      {list.hasNextPage && (
        <Button className="mt-6" onClick={() => void list.fetchNextPage()}>
          {w.comments.more}
        </Button>
      )}
    </div>
  )
}

function Line({
  comment,
  onShow,
  onRefuse,
}: {
  comment: Comment
  onShow: (() => void) | undefined
  onRefuse: (() => void) | undefined
}) {
  return (
    <li
      data-comment={comment.id}
      className="grid grid-cols-[9rem_minmax(0,1fr)_auto] gap-x-6 border-t border-line py-4 max-md:grid-cols-[5rem_minmax(0,1fr)]"
    >
      <Link
        to="/workroom/photos"
        search={{ photo: comment.photo }}
        aria-label={w.comments.toPhoto(comment.title)}
      >
        <img
          src={rendition(comment.picture, 480)}
          width={comment.width}
          height={comment.height}
          alt=""
          loading="lazy"
          className="h-auto max-h-28 w-full object-contain object-left-top"
        />
      </Link>
      <div className="min-w-0">
        <p className="max-w-[42rem] whitespace-pre-line [overflow-wrap:anywhere]">{comment.words}</p>
        <p className="mt-1.5 text-small text-quiet [overflow-wrap:anywhere]">
          {w.comments.by(comment.name, moment(comment.said))} · {comment.title}
        </p>
      </div>
      <p className="flex items-baseline gap-3 self-start max-md:col-start-2 max-md:mt-3">
        {onShow && (
          <Button data-verb="show" look={onRefuse ? 'next' : 'plain'} onClick={onShow}>
            {onRefuse ? w.comments.show : w.comments.showAfterAll}
          </Button>
        )}
        {onRefuse && (
          <Button data-verb="refuse" onClick={onRefuse}>
            {onShow ? w.comments.refuse : w.comments.hide}
          </Button>
        )}
      </p>
    </li>
  )
}

/** What was refused goes for good when the owner says so. */
function Removal({ count, most }: { count: number; most: number }) {
  const [asking, setAsking] = useState(false)
  const isOwner = useSession().data?.role === 'owner'
  const remove = useAct(
    () => body(api.POST('/api/comments/remove'), w.errors.away),
    () => {
      setAsking(false)
      tell({ text: w.comments.removed })
    },
  )
  if (!isOwner) return null
  return (
    <>
      <Button onClick={() => setAsking(true)}>{w.comments.remove}</Button>
      <Dialog open={asking} onClose={() => setAsking(false)} title={w.comments.removeAsk(count, most)}>
        <p className="mt-3">{w.comments.removeText}</p>
        <div className="mt-5 flex gap-4">
          <Button look="next" onClick={() => remove.mutate(undefined)}>
            {w.comments.remove}
          </Button>
          <Button onClick={() => setAsking(false)}>{w.comments.keep}</Button>
        </div>
      </Dialog>
    </>
  )
}
