/** The workroom's address of a rendition. Visitors' pages carry their own addresses; nothing is made up in the browser. */
export function rendition(picture: string, width: number) {
  return `/api/renditions/${picture}/${width}`
}

/** Renditions for `srcset`, each with its true width. The widths are those the server says there are. */
export function sourceSet(picture: string, widths: readonly number[], originalWidth: number) {
  return widths.map((width) => `${rendition(picture, width)} ${Math.min(width, originalWidth)}w`).join(', ')
}

/** The smallest of the widths made already that fills a place, or the largest there is; undefined while none is made. */
export function fitting(widths: readonly number[], pixels: number) {
  return widths.find((width) => width >= pixels) ?? widths.at(-1)
}
