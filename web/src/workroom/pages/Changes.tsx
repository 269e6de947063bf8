import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { type Api, api, body } from '../../api/client'
import { Button } from '../../kit/Button'
import { Popover } from '../../kit/Popover'
import { w } from '../../words'
import { HeldOnPage } from '../clearance/HeldBack'

/** What publishing would change for visitors, read before it is done. */
export function Changes({ page, notes }: { page: Api['OpenedPage']; notes: Api['PageNotes'] | null }) {
  const [open, setOpen] = useState(false)
  const changes = useQuery({
    queryKey: ['pages', page.id, 'changes', page.edited],
    queryFn: () =>
      body(api.GET('/api/pages/{page}/changes', { params: { path: { page: page.id } } }), w.errors.away),
    enabled: open,
  }).data?.changes
  return (
    <Popover
      open={open}
      onOpenChange={setOpen}
      label={w.versions.changes}
      trigger={<Button look="word">{w.versions.changes}</Button>}
    >
      <p className="font-semibold">{w.versions.forVisitors}</p>
      <ul className="mt-2 grid gap-1.5 text-small">
        {changes?.map((change) => (
          <li key={`${change.kind} ${change.block ?? ''}`}>
            {w.versions.kinds[change.kind]} {change.what}
            {change.parts.length > 0 && <span className="text-quiet">: {change.parts.join(', ')}</span>}
          </li>
        ))}
        {changes?.length === 0 && <li className="text-quiet">{w.versions.none}</li>}
      </ul>
      <HeldOnPage notes={notes} />
    </Popover>
  )
}
