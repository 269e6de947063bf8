import { api, body, bytesOf } from '../../api/client'
import { asPlain } from '../../kit/Button'
import { w } from '../../words'
import { tellDone } from '../shell/news'
import { TableFile } from '../shell/TableFile'

const bytes = (file: File) => bytesOf(file, 'text/csv')

/** The list of persons as a spreadsheet's file: out, and in again, with what would change said before. */
export function PersonFile() {
  return (
    <section aria-label={w.clearance.list}>
      <h2 className="text-lead">{w.clearance.list}</h2>
      <p className="mt-2 text-small text-quiet">{w.clearance.listLead}</p>
      <TableFile
        choose={w.clearance.take}
        another={w.clearance.another}
        beside={
          <a href="/api/clearance/persons.csv" download className={asPlain}>
            {w.clearance.save}
          </a>
        }
        look={(file, query) =>
          body(
            api.POST('/api/clearance/persons/preview', { params: { query }, ...bytes(file) }),
            w.errors.away,
          )
        }
        write={(file, as) =>
          body(
            api.POST('/api/clearance/persons/table', {
              params: { query: { ...as, name: file.name } },
              ...bytes(file),
            }),
            w.errors.away,
          )
        }
        verb={w.clearance.writeList}
        onDone={({ changed, done }) =>
          tellDone(`${w.clearance.tookIn(changed)}${w.clearance.reaches(done.photos)}`, done)
        }
      >
        {(found) => (
          <>
            {w.clearance.found(found.rows, found.read, found.yes, found.no)}{' '}
            {w.clearance.changes(found.changed)}{' '}
            <strong>
              {w.clearance.lost(found.lost)} {w.clearance.gained(found.gained)}
            </strong>
          </>
        )}
      </TableFile>
    </section>
  )
}
