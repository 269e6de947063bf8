import { queryOptions, useQueryClient } from '@tanstack/react-query'
import { type Api, api, body } from '../../api/client'
import { w } from '../../words'
import { useAct } from '../shell/data'

export const nothingSaid: Api['IntakeAbout'] = {
  album: null,
  categories: [],
  tags: [],
  credit: '',
  copyright: '',
  licence: '',
  origin: '',
}

export const intakes = queryOptions({
  queryKey: ['intakes'],
  queryFn: () => body(api.GET('/api/intakes'), w.errors.away),
})

/** One intake; read again whenever the server tells of something new, and by itself while something runs. */
export const intakeOf = (intake: string) =>
  queryOptions({
    queryKey: ['intake', intake],
    queryFn: () => body(api.GET('/api/intakes/{intake}', { params: { path: { intake } } }), w.errors.away),
    refetchInterval: (q) => (isBusy(q.state.data?.intake) ? 1500 : (false as const)),
  })

const isBusy = (line: Api['IntakeLine'] | undefined) =>
  line !== undefined && line.waiting + line.unpacking + line.sending > 0

/** An intake that files were just sent to; also read again while the server has not told of any of them. */
export const intakeBegun = (intake: string) =>
  queryOptions({
    ...intakeOf(intake),
    refetchInterval: (q) => {
      const line = q.state.data?.intake
      return isBusy(line) ||
        (line && line.files + line.alreadyHere + line.kept + line.sidecars + line.skipped + line.failed === 0)
        ? 1500
        : (false as const)
    },
  })

/** Says what holds for a whole intake. */
export function useSay(intake: string | null) {
  const client = useQueryClient()
  return useAct(
    (about: Api['IntakeAbout']) =>
      intake
        ? body(
            api.PUT('/api/intakes/{intake}/about', { params: { path: { intake } }, body: about }),
            w.errors.away,
          )
        : Promise.resolve(null),
    () => void client.invalidateQueries({ queryKey: ['intake', intake] }),
  )
}
