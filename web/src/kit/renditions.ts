/** The workroom's address of a rendition. Visitors' pages carry their own addresses; nothing is made up in the browser. */
export function rendition(hash: string, width: number) {
  return `/api/renditions/${hash}/${width}`
}

/** Renditions for `srcset`, each with its true width. The widths are those the server says there are. */
export function sourceSet(hash: string, widths: readonly number[], originalWidth: number) {
  return widths.map((width) => `${rendition(hash, width)} ${Math.min(width, originalWidth)}w`).join(', ')
}

/** The smallest of the widths made already that fills a place, or the largest there is; undefined while none is made. */
export function fitting(widths: readonly number[], pixels: number) {
  return widths.find((width) => width >= pixels) ?? widths.at(-1)
}
