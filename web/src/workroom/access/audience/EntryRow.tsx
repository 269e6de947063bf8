import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { type Api, api, body } from '../../../api/client'
import { asWord, Button } from '../../../kit/Button'
import { w } from '../../../words'
import { CopyVerb } from '../../shell/CopyVerb'
import { useAct } from '../../shell/data'
import { moment } from '../../shell/format'
import { tell } from '../../shell/news'
import { Sure } from '../../shell/Sure'
import { browserName } from '../browserName'

type Entry = Api['EntryLine']

/** An entry link or a passcode: for whom it is, how often it was used, and what is done with it. */
export function EntryRow({
  entry,
  address,
}: {
  entry: Entry
  /** What stands before the end of a link. */
  address: string
}) {
  const [asking, setAsking] = useState(false)
  const [looking, setLooking] = useState(false)
  const path = { params: { path: { entry: entry.id } } }
  const withdraw = useAct(
    () => body(api.DELETE('/api/entries/{entry}', path), w.errors.away),
    () => tell({ text: w.audience.withdrawn(entry.name) }),
  )
  const says = entry.kind === 'link' ? `${address}${entry.secret}` : entry.secret
  return (
    <li className="border-t border-line py-2.5">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] items-baseline gap-x-6 gap-y-0.5">
        <span className="truncate font-semibold" title={entry.name}>
          {entry.name}
        </span>
        <span className="flex flex-wrap items-baseline justify-end gap-x-4 text-small">
          <CopyVerb text={says} done={w.audience.copied} byHand={w.audience.byHand}>
            {w.audience.copy[entry.kind]}
          </CopyVerb>
          <a href={`/preview/entry/${entry.id}`} target="_blank" rel="noreferrer" className={asWord}>
            {w.audience.print}
          </a>
          <Button look="word" aria-expanded={asking} onClick={() => setAsking(!asking)}>
            {w.audience.withdraw}
          </Button>
        </span>
        <span
          className={`select-all truncate text-small ${entry.kind === 'passcode' ? 'font-semibold tracking-wider' : 'text-quiet'}`}
          title={says}
        >
          {says}
        </span>
        <span className="text-right text-small text-quiet">
          {entry.isGood ? '' : `${w.audience.over}, `}
          {entry.uses > 0 ? (
            <Button look="word" aria-expanded={looking} onClick={() => setLooking(!looking)}>
              {w.audience.uses(entry.uses, entry.most)}
            </Button>
          ) : (
            w.audience.uses(entry.uses, entry.most)
          )}
          {entry.lastUsed && `, ${w.audience.last(moment(entry.lastUsed))}`}
          {entry.isGood && entry.ends && `, ${w.audience.ends(moment(entry.ends))}`}
        </span>
      </div>
      {asking && (
        <Sure
          says={w.audience.withdrawAsk(entry.name)}
          verb={w.audience.withdraw}
          keep={w.audience.keep}
          isBusy={withdraw.isPending}
          onYes={() => withdraw.mutate(undefined)}
          onNo={() => setAsking(false)}
        />
      )}
      {looking && (
        <>
          <Uses entry={entry.id} />
          <Link to="/workroom/records" search={{ entry: entry.id }} className={`text-small ${asWord}`}>
            {w.records.see}
          </Link>
        </>
      )}
    </li>
  )
}

/** Who came in, the latest first. */
function Uses({ entry }: { entry: string }) {
  const uses = useQuery({
    queryKey: ['audience', 'uses', entry],
    queryFn: async () =>
      (await body(api.GET('/api/entries/{entry}/uses', { params: { path: { entry } } }), w.errors.away)).uses,
  }).data
  return (
    <ol aria-label={w.audience.whoCame} className="mt-1 max-h-40 overflow-auto text-small text-quiet">
      {uses?.map((use) => (
        <li key={use.at}>
          {w.audience.came(moment(use.at), browserName(use.browser) ?? w.audience.browser, use.network)}
        </li>
      ))}
    </ol>
  )
}
