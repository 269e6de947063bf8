import { copy } from '../kit/copy'
import { w } from '../words/site'
import { button } from './dom'

/** So long it is said that the link was copied, milliseconds. */
const told = 2000

/** A button that copies a link, and says for a while that it did. */
export function copyButton(link: () => string): HTMLButtonElement {
  let over = 0
  const made = button(w.copyLink, () => {
    void copy(link()).then((done) => {
      if (!done) return
      made.textContent = w.copied
      clearTimeout(over)
      over = window.setTimeout(() => {
        made.textContent = w.copyLink
      }, told)
    })
  })
  return made
}
