import { Outlet, useRouterState } from '@tanstack/react-router'
import { useState } from 'react'
import { Button } from '../../kit/Button'
import { Dialog } from '../../kit/Dialog'
import { w } from '../../words'
import { Contents } from './Contents'
import { useSession } from './data'
import { useFolded } from './folded'
import { useBareKeys, useKeys } from './keys'
import { toggleLight } from './light'
import { useNewsLine } from './live'
import { SignIn } from './SignIn'

/** Where links from letters lead: before the workroom, whoever is signed in. */
const doors = ['/workroom/invited', '/workroom/way-in']

/** The workroom: the contents at the left, the open station beside it; signed out, the way in. */
export function Frame() {
  const session = useSession()
  const atDoor = useRouterState({ select: (s) => doors.includes(s.location.pathname) })
  const [keys, setKeys] = useState(false)
  const [folded, fold] = useFolded()
  const [bare, setBare] = useBareKeys()
  useKeys({ '?': () => setKeys(true), d: toggleLight, f: fold }, !!session.data?.name)
  useNewsLine(!!session.data?.name)
  if (session.isPending) return null
  if (session.isError)
    return (
      <main className="grid min-h-screen place-items-center text-center">
        <div>
          <p className="mb-4 max-w-[28rem]">{w.errors.away}</p>
          <Button onClick={() => void session.refetch()}>{w.errors.again}</Button>
        </div>
      </main>
    )
  if (atDoor) return <Outlet />
  if (!session.data.name) return <SignIn />
  return (
    <div className="workroom-frame" data-folded={folded || undefined}>
      <Contents folded={folded} onFold={fold} onKeys={() => setKeys(true)} />
      <main className="station min-w-0">
        <Outlet />
      </main>
      <Dialog open={keys} onClose={() => setKeys(false)} title={w.keys.title} wide>
        <dl className="mt-5 gap-x-10 md:columns-2">
          {w.keys.rows.map(([key, says]) => (
            <div key={key} className="flex break-inside-avoid gap-x-6 pb-1.5">
              <dt className="w-28 shrink-0 font-semibold whitespace-nowrap">{key}</dt>
              <dd className="text-quiet">{says}</dd>
            </div>
          ))}
        </dl>
        <label className="mt-4 flex items-baseline gap-2 border-t border-line pt-4">
          <input
            type="checkbox"
            className="accent-plum"
            checked={bare}
            onChange={(e) => setBare(e.target.checked)}
          />
          {w.keys.bare}
        </label>
        <Button className="mt-6" onClick={() => setKeys(false)}>
          {w.keys.close}
        </Button>
      </Dialog>
    </div>
  )
}
