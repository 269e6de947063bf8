import { Dialog } from '../../../kit/Dialog'
import { w } from '../../../words'
import { CopyVerb } from '../../shell/CopyVerb'
import { AudienceForm } from './AudienceForm'
import { type AudienceOf, useAudience } from './data'
import { EntryRow } from './EntryRow'
import { NewEntry } from './NewEntry'

/** Says who may see a thing, and hands out what lets visitors in. */
export function AudienceDialog({ of, onClose }: { of: AudienceOf; onClose: () => void }) {
  const { data: shown, error } = useAudience(of)
  if (!shown)
    return error ? (
      <Dialog open onClose={onClose} title={w.audience.who}>
        <p role="alert" className="mt-3">
          {error.message}
        </p>
      </Dialog>
    ) : null
  const { who } = shown.audience
  return (
    <Dialog open onClose={onClose} title={w.audience.title(shown.name)} wide>
      {of.kind === 'photo' && <p className="mt-2 text-quiet">{w.audience.photosLead(1)}</p>}
      <AudienceForm
        key={JSON.stringify(shown.audience)}
        of={of}
        name={shown.name}
        was={shown.audience}
        chosen={shown.chosen}
        above={shown.above}
      />
      {shown.link && (
        <section aria-label={w.audience.link} className="mt-7 border-t border-strong-line pt-4">
          <h3 className="text-lead">{w.audience.link}</h3>
          <p className="mt-1 text-small text-quiet">{w.audience.linkLead}</p>
          <p className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
            <span className="min-w-0 break-all select-all">{shown.link}</span>
            <CopyVerb text={shown.link} done={w.audience.copied} byHand={w.audience.byHand}>
              {w.audience.copy.link}
            </CopyVerb>
          </p>
        </section>
      )}
      {(who === 'holders' || shown.entries.length > 0) && (
        <section aria-label={w.audience.entries} className="mt-7 border-t border-strong-line pt-4">
          <h3 className="text-lead">{w.audience.entries}</h3>
          <p className="mt-1 text-small text-quiet">
            {who === 'holders' ? w.audience.entriesLead : w.audience.entriesOff}
          </p>
          <NewEntry of={of} />
          {shown.entries.length === 0 ? (
            <p className="mt-4 text-quiet">{w.audience.none}</p>
          ) : (
            <ul className="mt-4">
              {shown.entries.map((entry) => (
                <EntryRow key={entry.id} entry={entry} address={shown.address} />
              ))}
            </ul>
          )}
        </section>
      )}
    </Dialog>
  )
}
