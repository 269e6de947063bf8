/** Numbers, lengths of time and what belongs to them, in words. */
/** A number of things. */
export const plural = (n: number, one: string, many: string) =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`

export const photos = (n: number) => plural(n, 'photo', 'photos')

/** What an intake brought, in words. */
export const brought = (n: number, files: number) =>
  files === 0
    ? photos(n)
    : n === 0
      ? plural(files, 'file', 'files')
      : `${photos(n)} and ${plural(files, 'file', 'files')}`

/** A length of time in round words. */
export const time = (seconds: number) =>
  seconds < 90
    ? plural(Math.max(5, Math.round(seconds / 5) * 5), 'second', 'seconds')
    : seconds < 5400
      ? plural(Math.round(seconds / 60), 'minute', 'minutes')
      : plural(Math.round(seconds / 3600), 'hour', 'hours')
