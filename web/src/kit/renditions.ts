const widths = [240, 480, 960, 1600, 2560]

/** The address of a rendition; the recipe's number is the server's `Renditions.Recipe`. */
export function rendition(hash: string, width: number) {
  return `/i/${hash}/1-${width}.webp`
}

/** All renditions of a photo for `srcset`, each with its true width. */
export function sourceSet(hash: string, originalWidth: number) {
  return widths
    .filter((width) => width <= originalWidth || width === 480)
    .map((width) => `${rendition(hash, width)} ${Math.min(width, originalWidth)}w`)
    .join(', ')
}
