import { api, body, bytesOf } from '../../api/client'
import { asPlain } from '../../kit/Button'
import { w } from '../../words'
import { tellDone } from '../shell/news'
import { TableFile } from '../shell/TableFile'

const bytes = (file: File) => bytesOf(file, 'text/csv')

/** A price list as a spreadsheet's file: out, and in again, with what would change said before. */
export function PriceFile({ list, written }: { list: string; written: () => void }) {
  const path = { list }
  return (
    <section aria-label={w.prices.table}>
      <h2 className="text-lead">{w.prices.table}</h2>
      <p className="mt-2 text-small text-quiet">{w.prices.tableLead}</p>
      <TableFile
        choose={w.prices.take}
        another={w.prices.another}
        settings={list}
        beside={
          <a href={`/api/prices/${list}/table.csv`} download className={asPlain}>
            {w.prices.save}
          </a>
        }
        look={(file, query) =>
          body(
            api.POST('/api/prices/{list}/table/preview', { params: { path, query }, ...bytes(file) }),
            w.errors.away,
          )
        }
        write={(file, as) =>
          body(
            api.POST('/api/prices/{list}/table', {
              params: { path, query: { ...as, name: file.name } },
              ...bytes(file),
            }),
            w.errors.away,
          )
        }
        verb={w.prices.write}
        onDone={({ changed, added, done }) => {
          written()
          tellDone(w.prices.wrote(changed + added), done)
        }}
      >
        {(found) => (
          <>
            {w.prices.found(found.rows, found.changed - found.added, found.added)}
            <ul className="mt-1 text-small">
              {found.changes.map((change) => (
                <li key={change}>{change}</li>
              ))}
            </ul>
          </>
        )}
      </TableFile>
    </section>
  )
}
