import type { View } from './walk'

/** The filter bar of a walk: buttons, or a drop-down, or one on some devices and the other on the rest. */
export class Bar {
  private readonly forms: HTMLElement[]

  /** @param onChoose A button was pressed that leads to this address. */
  constructor(number: number, onChoose: (href: string) => void) {
    this.forms = [...document.querySelectorAll<HTMLElement>(`[data-filter="${number}"]`)]
    for (const form of this.forms) {
      form.addEventListener('click', (e) => {
        const link = e.target instanceof Element ? e.target.closest<HTMLAnchorElement>('a[data-key]') : null
        if (!link || e.metaKey || e.ctrlKey || e.shiftKey || e.button !== 0) return
        e.preventDefault()
        onChoose(link.href)
      })
      const fold = form.querySelector('details')
      if (fold) closesByItself(fold)
    }
  }

  /** Says what is chosen, and how many photos each button finds now. */
  tell(view: View) {
    for (const form of this.forms) {
      for (const link of form.querySelectorAll<HTMLAnchorElement>('a[data-key]')) {
        const button = view.buttons.find((b) => b.key === link.dataset.key)
        const on = button ? button.chosen : view.isAll
        if (on) link.setAttribute('aria-current', 'true')
        else link.removeAttribute('aria-current')
        link.href = button ? button.link : view.allLink
        if (!button) continue
        link.classList.toggle('finds-nothing', button.count === 0 && !button.chosen)
        const count = link.querySelector('.count')
        if (count) count.textContent = String(button.count)
      }
      const says = form.querySelector<HTMLElement>('.says')
      if (!says) continue
      const chosen = view.buttons.filter((b) => b.chosen).map((b) => b.name)
      says.textContent = chosen.length > 0 ? chosen.join(', ') : (says.dataset.all ?? '')
    }
  }
}

/** A drop-down closes at Escape and when something else is pressed. */
function closesByItself(fold: HTMLDetailsElement) {
  fold.addEventListener('keydown', (e) => {
    if (e.key !== 'Escape' || !fold.open) return
    e.stopPropagation()
    fold.open = false
    fold.querySelector('summary')?.focus()
  })
  document.addEventListener('pointerdown', (e) => {
    if (e.target instanceof Node && !fold.contains(e.target)) fold.open = false
  })
}
