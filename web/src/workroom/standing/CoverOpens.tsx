import { Button } from '../../kit/Button'
import { ChooserPopover } from '../../kit/ChooserPopover'
import { w } from '../../words'
import { usePages } from '../shell/data'

/** Which page a cover opens: one that it has by itself, or any that was built. */
export function CoverOpens({
  opens,
  itself,
  onSay,
}: {
  /** The key of one of those it has by itself, or a page. */
  opens: string
  itself: readonly { key: string; name: string }[]
  onSay: (opens: string) => void
}) {
  const pages = usePages().data ?? []
  const page = pages.find((p) => p.id === opens)
  const own = itself.find((i) => i.key === opens)?.name
  return (
    <>
      <ChooserPopover
        label={w.standing.opens}
        trigger={
          <Button look="word" className="font-semibold">
            {own ?? (page ? w.standing.page(page.title) : w.source.gone)}
          </Button>
        }
        choices={[
          ...itself,
          ...pages.map((p) => ({ key: p.id, name: p.title, note: p.published ? '' : w.pages.draft })),
        ]}
        onChoose={(choice) => onSay(choice.key)}
      />
      {page && !page.published && <span className="text-quiet">{w.standing.opensDraft}</span>}
    </>
  )
}
