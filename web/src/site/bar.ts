import type { View } from './walk'

/** What is typed is looked for so long after the last letter, ms. */
const pause = 250

/**
 * What visitors narrow a walk with: buttons, or a drop-down, or one on some devices and the other on the rest; words, an order; and
 * the way back from where nothing is found.
 */
export class Bar {
  private readonly forms: HTMLElement[]

  /** @param onChoose A visitor wants what stands at this address; `typing` while words are typed. */
  constructor(
    number: number,
    private readonly onChoose: (href: string, typing: boolean) => void,
  ) {
    this.forms = [...document.querySelectorAll<HTMLElement>(`[data-filter="${number}"]`)]
    for (const form of this.forms) {
      form.addEventListener('click', (e) => {
        const link = e.target instanceof Element ? e.target.closest('a') : null
        if (!link || e.metaKey || e.ctrlKey || e.shiftKey || e.button !== 0) return
        e.preventDefault()
        onChoose(link.href, false)
        if (link.classList.contains('clear')) this.clear(form)
      })
      const fold = form.querySelector('details')
      if (fold) closesByItself(fold)
      const words = form.querySelector<HTMLInputElement>('[type="search"]')
      if (words) this.finds(words)
    }
  }

  private clear(form: HTMLElement) {
    const words = form.querySelector<HTMLInputElement>('[type="search"]')
    if (!words) return
    words.value = ''
    words.focus()
  }

  /** Looks for words while they are typed. */
  private finds(words: HTMLInputElement) {
    let timer = 0
    const look = () => {
      clearTimeout(timer)
      const now = words.value.trim()
      const address = new URL(location.href)
      if (now === (address.searchParams.get(words.name) ?? '')) return
      if (now) address.searchParams.set(words.name, now)
      else address.searchParams.delete(words.name)
      this.onChoose(address.href, true)
    }
    words.addEventListener('input', () => {
      clearTimeout(timer)
      timer = window.setTimeout(look, pause)
    })
    words.form?.addEventListener('submit', (e) => {
      e.preventDefault()
      look()
    })
  }

  /** Says what is chosen, and how many photos each button finds now. */
  tell(view: View) {
    for (const form of this.forms) {
      if (form.dataset.none !== undefined) form.hidden = view.shown > 0
      for (const link of form.querySelectorAll<HTMLAnchorElement>('a[data-key]')) tellButton(link, view)
      for (const link of form.querySelectorAll<HTMLAnchorElement>('a[data-order]')) {
        const order = view.orders.find((o) => o.key === link.dataset.order)
        if (!order) continue
        link.href = order.link
        mark(link, order.chosen)
      }
      const clear = form.querySelector<HTMLAnchorElement>('a.clear')
      if (clear) {
        clear.href = view.wordlessLink
        clear.hidden = view.find === ''
      }
      const whole = form.querySelector<HTMLAnchorElement>('a.whole')
      if (whole) whole.href = view.wholeLink
      // Who is typing goes on typing.
      const words = form.querySelector<HTMLInputElement>('[type="search"]')
      if (words && words !== document.activeElement) words.value = view.find
      const says = form.querySelector<HTMLElement>('.says')
      if (!says) continue
      const chosen = view.buttons.filter((b) => b.chosen).map((b) => b.name)
      says.textContent = chosen.length > 0 ? chosen.join(', ') : (says.dataset.all ?? '')
    }
  }
}

function mark(link: HTMLAnchorElement, on: boolean) {
  if (on) link.setAttribute('aria-current', 'true')
  else link.removeAttribute('aria-current')
}

function tellButton(link: HTMLAnchorElement, view: View) {
  const button = view.buttons.find((b) => b.key === link.dataset.key)
  mark(link, button ? button.chosen : view.isAll)
  link.href = button ? button.link : view.allLink
  const count = link.querySelector('.count')
  if (count) count.textContent = String(button ? button.count : view.allCount)
  if (button) link.classList.toggle('finds-nothing', button.count === 0 && !button.chosen)
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
