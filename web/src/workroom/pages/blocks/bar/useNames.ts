import { w } from '../../../../words'
import { useAlbums, useCategories, useTags } from '../../../shell/data'
import type { Bar, BarButton } from './bar'

/** What the things are called that a filter bar has buttons for. */
export function useNames(bar: Bar): (button: BarButton) => string {
  const tagged = bar.groups.flatMap((g) =>
    g.buttons.filter((b) => b.kind === 'tag').flatMap((b) => b.thing ?? []),
  )
  const categories = useCategories().data ?? []
  const tags = useTags('', tagged).data ?? []
  const albums = useAlbums().data ?? []
  const names = new Map<string, string>([
    ...categories.map((c) => [c.id, c.name] as const),
    ...tags.map((t) => [t.id, t.name] as const),
    ...albums.map((a) => [a.id, a.title || a.workingName] as const),
  ])
  return (button) => (button.thing === null ? w.bar.each : (names.get(button.thing) ?? w.source.gone))
}
