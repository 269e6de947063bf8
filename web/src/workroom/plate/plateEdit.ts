import type { Api } from '../../api/client'

/** The texts of a photo, each edited where it stands. */
export const fields = [
  'title',
  'caption',
  'alt',
  'credit',
  'creator',
  'copyright',
  'licence',
  'origin',
  'place',
  'link',
] as const
export type Field = (typeof fields)[number]

/** What was done to a photo's words and is not written yet: new words, and what was added and taken away. */
export type PlateEdit = {
  words: Partial<Record<Field, string>>
  /** When it was taken, and where on Earth, where that was said anew. */
  taken?: Api['PlateTaken']
  position?: Api['PlatePosition']
  addPeople: readonly string[]
  removePeople: readonly string[]
  addTags: readonly string[]
  removeTags: readonly Api['PlateTag'][]
  addCategories: readonly Api['PlateCategory'][]
  removeCategories: readonly string[]
}

export const noEdit: PlateEdit = {
  words: {},
  addPeople: [],
  removePeople: [],
  addTags: [],
  removeTags: [],
  addCategories: [],
  removeCategories: [],
}

export function isNothing(e: PlateEdit) {
  return (
    Object.keys(e.words).length === 0 &&
    !e.taken &&
    !e.position &&
    [e.addPeople, e.removePeople, e.addTags, e.removeTags, e.addCategories, e.removeCategories].every(
      (list) => list.length === 0,
    )
  )
}

const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase()

/** An edit and a later one as one: later words stand, and what is added and taken away again is neither. */
export function joined(earlier: PlateEdit, later: PlateEdit): PlateEdit {
  const addTags = [...earlier.addTags.filter((n) => !later.addTags.some((m) => same(n, m))), ...later.addTags]
  const removeTags = [
    ...earlier.removeTags.filter((t) => !later.removeTags.some((u) => u.id === t.id)),
    ...later.removeTags,
  ]
  const addCategories = [
    ...earlier.addCategories.filter((c) => !later.addCategories.some((d) => d.id === c.id)),
    ...later.addCategories,
  ]
  const [taken, position] = [later.taken ?? earlier.taken, later.position ?? earlier.position]
  const removeCategories = [...new Set([...earlier.removeCategories, ...later.removeCategories])]
  return {
    words: { ...earlier.words, ...later.words },
    ...(taken && { taken }),
    ...(position && { position }),
    addPeople: [
      ...earlier.addPeople.filter((n) => !later.removePeople.some((m) => same(n, m))),
      ...later.addPeople,
    ],
    removePeople: [
      ...earlier.removePeople.filter((n) => !later.addPeople.some((m) => same(n, m))),
      ...later.removePeople,
    ],
    addTags: addTags.filter((n) => !later.removeTags.some((t) => same(t.name, n))),
    removeTags: removeTags.filter((t) => !later.addTags.some((n) => same(n, t.name))),
    addCategories: addCategories.filter((c) => !later.removeCategories.includes(c.id)),
    removeCategories: removeCategories.filter((id) => !later.addCategories.some((c) => c.id === id)),
  }
}

/** The tags, people and categories as they will be once an edit is written. */
export function withEdit(plate: Api['Plate'], e: PlateEdit) {
  const tags = plate.tags.filter((t) => !e.removeTags.some((u) => u.id === t.id))
  const categories = plate.categories.filter((c) => !e.removeCategories.includes(c.id))
  const people = plate.people.filter((n) => !e.removePeople.some((m) => same(n, m)))
  return {
    people: [...people, ...e.addPeople.filter((n) => !people.some((m) => same(n, m)))],
    taken: e.taken ? e.taken.local : plate.taken,
    offset: e.taken ? (e.taken.offset ?? null) : plate.takenOffsetMinutes,
    hasPosition: e.position ? e.position.latitude != null : plate.latitude !== null,
    tags: [
      ...tags,
      ...e.addTags
        .filter((n) => !tags.some((t) => same(t.name, n)))
        .map((name) => ({ id: `new-${name}`, name, saidBy: 'person' })),
    ],
    categories: [...categories, ...e.addCategories.filter((c) => !categories.some((d) => d.id === c.id))],
  }
}
