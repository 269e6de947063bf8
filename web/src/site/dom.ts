/** Makes an element with what it has and what stands in it. */
export function make<Name extends keyof HTMLElementTagNameMap>(
  name: Name,
  has: Partial<HTMLElementTagNameMap[Name]> = {},
  ...within: (Node | string)[]
): HTMLElementTagNameMap[Name] {
  const made = document.createElement(name)
  Object.assign(made, has)
  made.append(...within)
  return made
}

/** A key that does something where nobody is typing: alone, and not in a field. */
export const isAlone = (e: KeyboardEvent) =>
  !(e.metaKey || e.ctrlKey || e.altKey) &&
  !(e.target instanceof Element && e.target.matches('input, textarea, select'))

/** Makes a button that does something when it is pressed. */
export const button = (words: string, onPress: () => void, has: Partial<HTMLButtonElement> = {}) =>
  make('button', { type: 'button', textContent: words, onclick: onPress, ...has })
