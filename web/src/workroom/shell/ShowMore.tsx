import { Button } from '../../kit/Button'

/** Beneath a window of a list: reads the next; nothing where there is none. */
export function ShowMore({
  of,
  children,
}: {
  of: { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => Promise<unknown> }
  children: string
}) {
  if (!of.hasNextPage) return null
  return (
    <p className="border-t border-line pt-4">
      <Button onClick={() => void of.fetchNextPage()} disabled={of.isFetchingNextPage}>
        {children}
      </Button>
    </p>
  )
}
