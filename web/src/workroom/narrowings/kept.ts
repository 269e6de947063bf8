import type { Api } from '../../api/client'
import { type NarrowingSearch, narrowingOf } from './narrowing'

/** What the address of a narrowed sheet says, order and all. */
export function searchOf(
  search: NarrowingSearch & { sort?: string | undefined; reversed?: boolean | undefined },
) {
  const said = new URLSearchParams()
  for (const [name, value] of Object.entries(narrowingOf(search))) if (value) said.set(name, value)
  if (search.sort) said.set('sort', search.sort)
  if (search.reversed) said.set('reversed', 'true')
  return said.toString()
}

/** The search of a kept narrowing, as links take it. */
export const searchFrom = (text: string): Record<string, string> =>
  Object.fromEntries(new URLSearchParams(text))

/** The kept narrowing that says the same as this; in which order it is shown is no part of what it says. */
export function keptAs(kept: readonly Api['KeptNarrowing'][], search: NarrowingSearch) {
  const said = JSON.stringify(narrowingOf(search))
  return kept.find((k) => JSON.stringify(narrowingOf(searchFrom(k.search))) === said)
}
