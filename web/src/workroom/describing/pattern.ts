import type { Api } from '../../api/client'

export type PatternPart = Api['PatternPart']
export type WordField = Api['WordField']
export type Change = Api['ChangeSaid']

/** A pattern while it is typed: text before, between and behind the parts, so that there is a place to type everywhere. */
export type Typed = { texts: readonly string[]; parts: readonly PatternPart[] }

export const blank: Typed = { texts: [''], parts: [] }

/** What other things of a photo a pattern may tell, in the order in which they are offered. */
export const told = [
  'before',
  'fileName',
  'album',
  'camera',
  'title',
  'caption',
  'place',
  'people',
  'tags',
  'creator',
  'credit',
] as const satisfies readonly Api['Told'][]

export const dateForms = ['day', 'iso', 'weekday', 'month', 'year', 'time'] as const

/** Puts a part in where one types; what stands behind that place stands behind the part. */
export function withPart(typed: Typed, text: number, at: number, part: PatternPart): Typed {
  const here = typed.texts[text] ?? ''
  return {
    texts: [...typed.texts.slice(0, text), here.slice(0, at), here.slice(at), ...typed.texts.slice(text + 1)],
    parts: [...typed.parts.slice(0, text), part, ...typed.parts.slice(text)],
  }
}

/** Without one part; the texts on both sides of it become one. */
export function withoutPart(typed: Typed, part: number): Typed {
  return {
    texts: [
      ...typed.texts.slice(0, part),
      `${typed.texts[part]}${typed.texts[part + 1]}`,
      ...typed.texts.slice(part + 2),
    ],
    parts: typed.parts.filter((_, i) => i !== part),
  }
}

export const withText = (typed: Typed, at: number, text: string): Typed => ({
  ...typed,
  texts: typed.texts.map((t, i) => (i === at ? text : t)),
})

export const withChanged = (typed: Typed, at: number, part: PatternPart): Typed => ({
  ...typed,
  parts: typed.parts.map((p, i) => (i === at ? part : p)),
})

/** As the server reads it: texts and parts in a row. */
export const asPattern = (typed: Typed): PatternPart[] =>
  typed.texts.flatMap((text, i) => {
    const part = typed.parts[i]
    return [...(text ? [{ text }] : []), ...(part ? [part] : [])]
  })
