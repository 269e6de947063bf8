import type { Api } from '../../../../api/client'

export type Bar = Api['BarSettings']
export type Group = Api['BarGroup']
export type BarButton = Api['BarButton']

/** Where a button stands in a bar: its group, its place in that, from 0. */
export type At = { group: number; place: number }

/** What tells a button from the others of its group. */
export const keyOf = (button: BarButton) => `${button.kind} ${button.thing ?? ''}`

/** What tells a button from all others of the bar, while nothing moves. */
export const idOf = (group: number, button: BarButton) => `${group} ${keyOf(button)}`

/** Where a button stands; undefined where there is none of that id. */
export function find(bar: Bar, id: string): At | undefined {
  for (const [group, { buttons }] of bar.groups.entries()) {
    const place = buttons.findIndex((b) => idOf(group, b) === id)
    if (place >= 0) return { group, place }
  }
  return undefined
}

/** A bar in which one of the groups is another one. */
export const withGroup = (bar: Bar, group: number, by: (group: Group) => Group): Bar => ({
  ...bar,
  groups: bar.groups.map((g, i) => (i === group ? by(g) : g)),
})

/** A new button as it begins. */
export const button = (kind: BarButton['kind'], thing: string | null): BarButton => ({
  kind,
  thing,
  words: '',
  beneath: kind === 'category',
  preset: false,
})

/** A bar with one button more at the end of a group; of a bar without groups the first is made. */
export function added(bar: Bar, group: number, one: BarButton): Bar {
  if (bar.groups.length === 0) return { ...bar, groups: [{ words: '', one: false, buttons: [one] }] }
  return withGroup(bar, group, (g) =>
    g.buttons.some((b) => keyOf(b) === keyOf(one)) ? g : { ...g, buttons: [...g.buttons, one] },
  )
}

/** A bar in which a button has another place, also in another group; there it takes the place of one for the same thing. */
export function moved(bar: Bar, from: At, to: At): Bar {
  const one = bar.groups[from.group]?.buttons[from.place]
  if (!one) return bar
  const without = withGroup(bar, from.group, (g) => ({ ...g, buttons: g.buttons.filter((b) => b !== one) }))
  return withGroup(without, to.group, (g) => {
    const others = g.buttons.filter((b) => keyOf(b) !== keyOf(one))
    return { ...g, buttons: [...others.slice(0, to.place), one, ...others.slice(to.place)] }
  })
}

/** A bar in which a button stands one step earlier or later; at the edge of its group it goes into the next. */
export function stepped(bar: Bar, from: At, by: -1 | 1): Bar {
  const group = bar.groups[from.group]
  if (!group) return bar
  const place = from.place + by
  if (place >= 0 && place < group.buttons.length) return moved(bar, from, { group: from.group, place })
  const next = bar.groups[from.group + by]
  return next ? moved(bar, from, { group: from.group + by, place: by < 0 ? next.buttons.length : 0 }) : bar
}
