/** Longest that one types ahead, milliseconds. */
const longest = 10_000

/**
 * Takes what is typed while its place on the page is not there yet: no letter is lost, and none presses what has the keyboard.
 * Returns what ends that, and says what was typed.
 * @param on Whoever is told ends it.
 */
export function typeAhead(on: {
  /** The place did not come. */
  late: () => void
  /** One goes on to something else. */
  left: () => void
}): () => string {
  let words = ''
  function press(e: KeyboardEvent) {
    const isField =
      e.target instanceof HTMLElement && ['INPUT', 'TEXTAREA', 'SELECT'].includes(e.target.tagName)
    if (isField || e.ctrlKey || e.metaKey || e.altKey || e.isComposing) return
    if (e.key === 'Tab' || e.key === 'Escape') return on.left()
    if (e.key === 'Backspace') words = words.slice(0, -1)
    else if (e.key === 'Enter') words += e.repeat ? '' : '\n'
    else if (e.key.length === 1) words += e.key
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  function end() {
    window.removeEventListener('keydown', press, true)
    clearTimeout(timer)
    return words
  }
  window.addEventListener('keydown', press, true)
  const timer = setTimeout(on.late, longest)
  return end
}
