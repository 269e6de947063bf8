import { en } from './en/index'

/** The words of the workroom in the reader's language. English is the one there is. */
export const w = en
