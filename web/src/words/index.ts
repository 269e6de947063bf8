import { en } from './en'

/** The words of the interface in the reader's language. English is the one there is. */
export const w = en
