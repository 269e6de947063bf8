import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type Api, api, body, setForgery } from '../../api/client'
import { w } from '../../words'
import { boundHand, hand } from './hand'
import { useLive } from './live'
import { tell, tellProblem } from './news'
import { refresh } from './refresh'

const away = w.errors.away

/** Who one is; also learns the token that unsafe requests carry. */
export function useSession() {
  return useQuery({
    queryKey: ['session'],
    queryFn: async () => {
      const session = await body(api.GET('/api/session'), away)
      setForgery(session.forgery)
      boundHand(session.bounds.inHand)
      if (session.name) void hand.read().catch(tellProblem)
      return session
    },
    staleTime: Number.POSITIVE_INFINITY,
  })
}

/** The figures at the ends of the contents' lines; told by the server, or asked for often while something runs. */
export function useFigures() {
  const live = useLive()
  return useQuery({
    queryKey: ['figures'],
    queryFn: () => body(api.GET('/api/desk/figures'), away),
    refetchInterval: (query) => {
      const now = query.state.data
      if (live) return 60_000
      return now && (now.waiting > 0 || now.larger > 0) ? 1500 : 20_000
    },
  })
}

export function useAlbums() {
  return useQuery({
    queryKey: ['albums'],
    queryFn: async () => (await body(api.GET('/api/albums'), away)).albums,
  })
}

export function usePages() {
  return useQuery({
    queryKey: ['pages'],
    queryFn: async () => (await body(api.GET('/api/pages'), away)).pages,
  })
}

/** Narrowings that are kept under a name, with how many photos each finds. */
export function useKeptNarrowings() {
  return useQuery({
    queryKey: ['narrowings'],
    queryFn: async () => (await body(api.GET('/api/narrowings'), away)).narrowings,
  })
}

/** Price lists, and the currencies that there are. */
export function usePriceLists() {
  return useQuery({ queryKey: ['prices'], queryFn: () => body(api.GET('/api/prices'), away) })
}

export function useCategories() {
  return useQuery({
    queryKey: ['categories'],
    queryFn: async () => (await body(api.GET('/api/categories'), away)).categories,
  })
}

/** @param also Tags that are to be among them in any case. */
export function useTags(typed: string, also: readonly string[] = []) {
  return useQuery({
    queryKey: ['tags', typed, also],
    queryFn: async () =>
      (await body(api.GET('/api/tags', { params: { query: { typed, also: [...also] } } }), away)).tags,
    placeholderData: keepPreviousData,
  })
}

/** The groups of members. */
export function useGroups() {
  return useQuery({
    queryKey: ['groups'],
    queryFn: async () => (await body(api.GET('/api/groups'), away)).all,
  })
}

/** People whom photos show already. */
export function usePeople(typed: string) {
  return useQuery({
    queryKey: ['people', typed],
    queryFn: async () =>
      (await body(api.GET('/api/words/people', { params: { query: { typed } } }), away)).people,
    placeholderData: keepPreviousData,
  })
}

/**
 * An act on the server: afterwards everything is read again, and a problem is told at the foot of the contents.
 * Acts that share a name in `inTurn` go one after another, so that what was done last is what stands and what is told.
 */
export function useAct<In, Out>(
  act: (input: In) => Promise<Out>,
  done?: (out: Out, input: In) => void,
  inTurn?: string,
) {
  const client = useQueryClient()
  return useMutation({
    mutationFn: act,
    ...(inTurn && { scope: { id: inTurn } }),
    onSuccess: (out, input) => {
      refresh(client)
      done?.(out, input)
    },
    onError: tellProblem,
  })
}

/** Takes an act back. What was changed since is left alone, and named. */
export function useUndo() {
  return useAct(
    // Who leaves the page at once after pressing has pressed all the same.
    (act: string) =>
      body(api.POST('/api/acts/{act}/undo', { params: { path: { act } }, keepalive: true }), away),
    ({ undone, done }) => {
      // What the act had made may have been in hand.
      void hand.read().catch(tellProblem)
      tell({
        text:
          undone.leftCount === 0 ? w.contents.undone : w.contents.undoneBut(undone.left, undone.leftCount),
        act: done.act,
      })
    },
  )
}

export function useMakeAlbum(done: (album: Api['AlbumLine']) => void) {
  return useAct((workingName: string) => body(api.POST('/api/albums', { body: { workingName } }), away), done)
}
