import { searchOf } from '../narrowings/kept'
import { narrowingOf } from '../narrowings/narrowing'
import type { SheetQuery } from '../sheet/useSheet'

/** The order that a sheet has; one made by hand is none for an album that fills itself. */
export const orderOf = (search: SheetQuery) => ({
  sort: search.sort && search.sort !== 'place' ? search.sort : ('taken' as const),
  reversed: search.reversed ?? false,
})

/** How an album fills itself with what a sheet finds. */
export const fillingOf = (search: SheetQuery, most: number) => ({
  search: searchOf(narrowingOf(search)),
  most,
  ...orderOf(search),
})
