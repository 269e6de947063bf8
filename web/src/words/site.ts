import { siteWords } from './en/site'

/** What visitors read, in the reader's language; apart from the workroom's words, so that they fetch none of those. */
export const w = siteWords
