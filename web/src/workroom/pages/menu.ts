import type { Api } from '../../api/client'

export type Entry = Api['MenuEntry']

/** A line of the menu as it is arranged: an entry, and whether it stands beneath the one above. */
export type Line = { entry: Entry; beneath: boolean }

export const lines = (entries: readonly Entry[]): Line[] =>
  entries.flatMap((entry) => [
    { entry: { ...entry, entries: [] }, beneath: false },
    ...entry.entries.map((inner) => ({ entry: inner, beneath: true })),
  ])

/** The menu that lines make: what stands beneath belongs to the last that does not; the first line never does. */
export function entries(all: readonly Line[]): Entry[] {
  const made: Entry[] = []
  for (const { entry, beneath } of all) {
    const last = made.at(-1)
    const bare = { ...entry, entries: [] }
    if (beneath && last) made[made.length - 1] = { ...last, entries: [...last.entries, bare] }
    else made.push(bare)
  }
  return made
}
