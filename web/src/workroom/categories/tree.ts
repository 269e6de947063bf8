/** A line of a tree written out, parents before their children. */
export type TreeLine = { id: string; parent: string | null; depth: number }

/** Where a line is set down: beneath which other, as the how-manieth there (0 = first). */
export type Landing = { parent: string | null; place: number }

/** Pixels that a line is set in for each step of depth. */
export const indent = 28

/** Whether a line stands beneath another, or is it. */
export function isBeneath(lines: readonly TreeLine[], id: string, above: string): boolean {
  if (id === above) return true
  const parent = lines.find((l) => l.id === id)?.parent
  return parent ? isBeneath(lines, parent, above) : false
}

/**
 * Where a line that is dragged would be set down: in the gap before the `gap`-th of the lines that stay, as deep as is nearest to
 * what is wanted and possible there: not deeper than beneath the line above, nor so shallow that the line below would lose its parent.
 */
export function landing(
  lines: readonly TreeLine[],
  moved: string,
  gap: number,
  wanted: number,
): Landing & { depth: number } {
  const rest = lines.filter((l) => !isBeneath(lines, l.id, moved))
  const [above, below] = [rest[gap - 1], rest[gap]]
  const depth = Math.max(below?.depth ?? 0, Math.min(wanted, above ? above.depth + 1 : 0))
  let parent: string | null = null
  for (let i = gap - 1; i >= 0 && depth > 0; i--) {
    if (rest[i]?.depth === depth - 1) {
      parent = rest[i]?.id ?? null
      break
    }
  }
  return { parent, place: rest.slice(0, gap).filter((l) => l.parent === parent).length, depth }
}

/** Where an arrow key moves a line: up and down among its siblings, right beneath the one before it, left out of its parent; null where it cannot go. */
export function steps(lines: readonly TreeLine[], id: string, key: string): Landing | null {
  const line = lines.find((l) => l.id === id)
  if (!line) return null
  const siblings = lines.filter((l) => l.parent === line.parent)
  const at = siblings.findIndex((l) => l.id === id)
  const before = siblings[at - 1]
  const above = lines.find((l) => l.id === line.parent)
  switch (key) {
    case 'ArrowUp':
      return before ? { parent: line.parent, place: at - 1 } : null
    case 'ArrowDown':
      return at < siblings.length - 1 ? { parent: line.parent, place: at + 1 } : null
    case 'ArrowRight':
      return before ? { parent: before.id, place: lines.filter((l) => l.parent === before.id).length } : null
    case 'ArrowLeft':
      return above
        ? {
            parent: above.parent,
            place: lines.filter((l) => l.parent === above.parent).findIndex((l) => l.id === above.id) + 1,
          }
        : null
    default:
      return null
  }
}
