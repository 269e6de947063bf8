import type { Api } from '../../api/client'
import { rendition } from '../../kit/renditions'
import { w } from '../../words'
import { takenAt } from '../shell/format'

/** What a rule would come to, on the first photos that it changes. */
export function Examples({ preview }: { preview: Api['DescribingPreview'] }) {
  return (
    <div className="mt-4" aria-live="polite">
      {preview.examples.length === 0 ? (
        <p className="text-small text-quiet">{w.describing.noExample}</p>
      ) : (
        <ol className="grid gap-2.5" aria-label={w.describing.examples}>
          {preview.examples.map((e) => (
            <li key={e.photo.id} className="grid grid-cols-[64px_minmax(0,1fr)] items-center gap-4">
              <span className="grid h-12 place-items-center">
                {e.photo.state === 'ready' && (
                  <img src={rendition(e.photo.picture, 480)} alt="" className="max-h-12 max-w-16" />
                )}
              </span>
              <span className="min-w-0 leading-snug" data-testid="example">
                {e.words.map((word) => (
                  <Anew key={word.field} before={word.before} after={word.after} />
                ))}
                {e.takenAfter && (
                  <Anew before={e.takenBefore ? takenAt(e.takenBefore) : ''} after={takenAt(e.takenAfter)} />
                )}
              </span>
            </li>
          ))}
        </ol>
      )}
      <p className="mt-3 text-small text-quiet">
        {[
          w.describing.changes(preview.changed, preview.reached, preview.looked),
          preview.lacks > 0 && w.describing.lacks(preview.lacks),
          preview.cut > 0 && w.describing.cut(preview.cut),
          preview.refused > 0 && w.describing.refused(preview.refused),
        ]
          .filter(Boolean)
          .join(' ')}
      </p>
    </div>
  )
}

function Anew({ before, after }: { before: string; after: string }) {
  return (
    <span className="block">
      <span className="block truncate">{after || w.describing.cleared}</span>
      <span className="block truncate text-[0.71875rem] text-quiet">
        {before ? `${w.describing.was} “${before}”` : w.describing.wasBlank}
      </span>
    </span>
  )
}
