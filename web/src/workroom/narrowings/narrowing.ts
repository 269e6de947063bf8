/** What a part of a narrowing may speak of, in the order in which the sentence says it. */
export const kinds = [
  'category',
  'tag',
  'people',
  'album',
  'intake',
  'source',
  'taken',
  'decision',
  'clearance',
  'rating',
  'shape',
  'pixels',
  'camera',
  'lens',
  'missing',
  'corrected',
] as const

export type Kind = (typeof kinds)[number]
type Name = Kind | `not${Capitalize<Kind>}`

/** A narrowing as addresses say it: each part by its name, its choices joined by commas. */
export type NarrowingSearch = { [name in Name]?: string | undefined } & { q?: string | undefined }

/** One part: any of the choices, or, turned round, none of them. */
export type Part = { kind: Kind; not: boolean; choices: readonly string[] }

export const none = 'none'

export const partName = (kind: Kind, not: boolean) =>
  (not ? `not${kind.charAt(0).toUpperCase()}${kind.slice(1)}` : kind) as Name

export const names: readonly Name[] = kinds.flatMap((kind) => [partName(kind, false), partName(kind, true)])

/** Choices of one text; a backslash stands before a comma or backslash within one. */
export function split(text: string): string[] {
  const choices: string[] = []
  let one = ''
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '\\' && i + 1 < text.length) one += text[++i]
    else if (text[i] === ',') {
      choices.push(one)
      one = ''
    } else one += text[i]
  }
  return [...choices, one].filter((choice) => choice !== '')
}

export const join = (choices: readonly string[]) =>
  choices.map((choice) => choice.replace(/[\\,]/g, (sign) => `\\${sign}`)).join(',')

/** The parts that a search says, in the order of the sentence. */
export function partsOf(search: NarrowingSearch): Part[] {
  return kinds.flatMap((kind) =>
    [false, true].flatMap((not) => {
      const choices = split(search[partName(kind, not)] ?? '')
      return choices.length > 0 ? [{ kind, not, choices }] : []
    }),
  )
}

/** The change of a search that says a part anew; without choices it is said no more. */
export const saying = (part: Part): NarrowingSearch => ({
  [partName(part.kind, part.not)]: part.choices.length > 0 ? join(part.choices) : undefined,
})

/** The same choices said the other way round. */
export const turned = (part: Part): NarrowingSearch => ({
  ...saying({ ...part, choices: [] }),
  ...saying({ ...part, not: !part.not }),
})

/** Only what narrows, so that other parts of an address do not count as another narrowing. */
export function narrowingOf(search: NarrowingSearch): NarrowingSearch {
  const only: NarrowingSearch = {}
  if (search.q) only.q = search.q
  for (const name of names) if (search[name]) only[name] = search[name]
  return only
}

/** A search in which nothing narrows. */
export const nothing: NarrowingSearch = Object.fromEntries(['q', ...names].map((name) => [name, undefined]))

export const isNarrowed = (search: NarrowingSearch) => Object.keys(narrowingOf(search)).length > 0
