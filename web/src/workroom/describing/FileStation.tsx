import { useState } from 'react'
import { api, body, bytesOf } from '../../api/client'
import { asPlain } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import { useFigures } from '../shell/data'
import { useHand } from '../shell/hand'
import { tellDone } from '../shell/news'
import { Heading } from '../shell/Station'
import { TableFile } from '../shell/TableFile'
import { Examples } from './Examples'
import { Pick } from './parts'

const away = w.errors.away
/** What is sent of a file. */
const bytes = (file: File) => bytesOf(file, 'text/csv')

/** Words as a spreadsheet's file: out, and in again, with what would change shown before. */
export function FileStation() {
  const { count } = useHand()
  const all = useFigures().data?.photos ?? 0
  const [which, setWhich] = useState<'hand' | 'all'>('all')
  const hand = which === 'hand' && count > 0
  return (
    <div className="max-w-[60rem] px-[30px] pt-7 pb-16">
      <Heading title={w.file.title} lead={w.file.lead} />
      <section className="mt-7" aria-label={w.file.out}>
        <h2 className="text-lead">{w.file.out}</h2>
        <p className="mt-2 font-display text-lead leading-[2] font-semibold">
          {w.file.save}{' '}
          <Pick
            label={w.file.save}
            value={hand ? 'hand' : 'all'}
            choices={[
              ['all', w.file.all(all)],
              ...(count > 0 ? [['hand', w.file.hand(count)] as const] : []),
            ]}
            onPick={setWhich}
          />
          .
        </p>
        <a href={`/api/words/table.csv${hand ? '?inHand=true' : ''}`} download className={`mt-3 ${asPlain}`}>
          {w.file.asCsv}
        </a>
      </section>
      <TakeIn />
    </div>
  )
}

/** Chooses a file, shows what it would change and what of it cannot be used, and writes it. */
function TakeIn() {
  const [clears, setClears] = useState<'no' | 'yes'>('no')
  const how = { clears: clears === 'yes' }
  return (
    <section className="mt-10 border-t border-line pt-6" aria-label={w.file.in}>
      <h2 className="text-lead">{w.file.in}</h2>
      <p className="mt-2 max-w-[40rem] text-quiet">{w.file.matched}</p>
      <TableFile
        first
        choose={w.file.choose}
        another={w.file.another}
        settings={clears}
        sentence={
          <>
            ;{' '}
            <WordSelect
              label={w.file.blanks.no}
              value={clears}
              choices={[
                ['no', w.file.blanks.no],
                ['yes', w.file.blanks.yes],
              ]}
              onChoose={setClears}
              className="leading-tight"
            />
          </>
        }
        look={(file, as) =>
          body(
            api.POST('/api/words/table/preview', { params: { query: { ...as, ...how } }, ...bytes(file) }),
            away,
          )
        }
        write={(file, as) =>
          body(
            api.POST('/api/words/table', {
              params: { query: { ...as, ...how, name: file.name } },
              ...bytes(file),
            }),
            away,
          )
        }
        verb={w.describing.doIt}
        onDone={(out) => tellDone(w.describing.done(out.done.photos, out.cut, 0), out.done)}
      >
        {(found) => (
          <>
            {w.file.found(found.rows, found.matched, found.byName)}
            <Examples
              preview={{ ...found, reached: found.matched, looked: found.matched, lacks: 0, refused: 0 }}
            />
          </>
        )}
      </TableFile>
    </section>
  )
}
