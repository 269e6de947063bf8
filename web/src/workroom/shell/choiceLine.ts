import type { Api } from '../../api/client'
import { w } from '../../words'
import { moment } from './format'

/** Where a choice stands, in the reader’s own time. */
export const choiceLine = ({ photos, most, changed, sent }: Api['ChoiceLine']) =>
  w.favourites.line(photos, most, moment(changed), sent && moment(sent))
