/** What a button may be in, in the order in which they are shown. */
export const states = ['resting', 'hover', 'active', 'chosen', 'focus'] as const
export type State = (typeof states)[number]

/** The states that a browser alone puts something in, each with the class that stands for it. */
const pseudo = [
  [':hover', 'as-hover'],
  [':active', 'as-active'],
  [':focus-visible', 'as-focus'],
] as const
const classOf: Partial<Record<State, string>> = {
  hover: 'as-hover',
  active: 'as-hover as-active',
  focus: 'as-focus',
}

/** Has every rule about such a state hold for the class, too: what is shown is what the page's own sheets say. */
function teach(of: CSSStyleSheet | CSSGroupingRule) {
  for (let i = of.cssRules.length - 1; i >= 0; i--) {
    const rule = of.cssRules[i]
    if (!rule) continue
    if ('selectorText' in rule) {
      const { selectorText, style } = rule as CSSStyleRule
      const taught = pseudo.reduce((text, [state, name]) => text.replaceAll(state, `.${name}`), selectorText)
      if (taught !== selectorText) of.insertRule(`${taught}{${style.cssText}}`, i + 1)
    } else if ('insertRule' in rule) teach(rule as CSSGroupingRule)
  }
}

/** The page has buttons that visitors narrow it with. */
export const hasButtons = (page: Document) => page.querySelector('.filter li a') !== null

/**
 * Shows above the first filter bar of a page how its buttons look in every state.
 * @param names What the buttons say, by their state; null to show none.
 */
export function showStates(page: Document, names: Readonly<Record<State, string>> | null) {
  page.querySelector('.states')?.remove()
  const bar = page.querySelector('.filter')
  if (!names || !bar) return
  const root = page.documentElement
  if (!root.dataset.taught) {
    for (const sheet of page.styleSheets) teach(sheet)
    root.dataset.taught = ''
  }
  const sample = page.createElement('div')
  const aligned = ['centre', 'right'].filter((side) => bar.classList.contains(side))
  sample.className = ['filter open states', ...aligned].join(' ')
  const list = sample.appendChild(page.createElement('ul'))
  for (const state of states) {
    const button = list.appendChild(page.createElement('li')).appendChild(page.createElement('a'))
    button.className = classOf[state] ?? ''
    if (state === 'chosen') button.setAttribute('aria-current', 'true')
    const count = page.createElement('span')
    count.className = 'count'
    count.textContent = '12'
    button.append(names[state], ' ', count)
  }
  bar.before(sample)
}
