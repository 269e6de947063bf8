import { useQuery } from '@tanstack/react-query'
import { api, body } from '../../../api/client'
import { w } from '../../../words'
import { MarkingChoice } from './MarkingChoice'

/** Who gets the photos of an album or a category without the watermark, as a sentence; nothing while the site has none. */
export function MarkingLine({
  of,
  className = '',
}: {
  of: { kind: 'album' | 'category'; id: string }
  className?: string
}) {
  const opened = useQuery({
    queryKey: ['watermark', of.kind, of.id],
    queryFn: () =>
      body(
        api.GET('/api/markings/{kind}/{thing}', { params: { path: { kind: of.kind, thing: of.id } } }),
        w.errors.away,
      ),
  }).data
  if (!opened || (!opened.hasWatermark && opened.marking.marking.who === 'everyone')) return null
  return (
    <section
      aria-label={w.watermark.title}
      className={`flex flex-wrap items-baseline gap-x-1.5 gap-y-1 text-small ${className}`}
    >
      <span>{w.watermark.without}</span>
      <MarkingChoice shown={opened.marking} label={w.watermark.of(opened.marking.name)} />
    </section>
  )
}
