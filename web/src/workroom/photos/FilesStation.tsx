import { useInfiniteQuery } from '@tanstack/react-query'
import { api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { FileLines } from '../shell/files'
import { Empty, Heading } from '../shell/Station'

/** Everything that is kept and is no photo. */
export function FilesStation() {
  const list = useInfiniteQuery({
    queryKey: ['files', 'all'],
    initialPageParam: undefined as string | undefined,
    queryFn: ({ pageParam }) =>
      body(
        api.GET('/api/files', { params: { query: pageParam === undefined ? {} : { after: pageParam } } }),
        w.errors.away,
      ),
    getNextPageParam: (page) => page.after ?? undefined,
  })
  const files = list.data?.pages.flatMap((p) => p.files)
  if (!files) return null
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading title={w.files.title} lead={w.files.lead} />
      {files.length === 0 ? (
        <Empty title={w.files.none} lead={w.files.noneLead} />
      ) : (
        <div className="mt-7">
          <FileLines files={files} />
        </div>
      )}
      {list.hasNextPage && (
        <Button className="mt-5" onClick={() => void list.fetchNextPage()}>
          {w.files.more}
        </Button>
      )}
    </div>
  )
}
