import type { View } from './walk'

/** What is typed is looked for so long after the last letter, ms. */
const pause = 250

/**
 * What visitors narrow a walk with: buttons, or a drop-down, or one on some devices and the other on the rest; words, an order; and
 * the way back from where nothing is found.
 */
export class Bar {
  private readonly forms: HTMLElement[]
  private words: HTMLInputElement | undefined
  private timer = 0
  /** What was asked for last, whether it has come or not: what is chosen next is chosen besides. */
  private wanted = location.href

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
        this.press(link)
      })
      const fold = form.querySelector('details')
      if (fold) closesByItself(fold)
      const words = form.querySelector<HTMLInputElement>('[type="search"]')
      if (words) this.finds(words)
    }
  }

  private ask(address: URL, typing: boolean) {
    clearTimeout(this.timer)
    this.wanted = address.href
    this.onChoose(address.href, typing)
  }

  /** Writes the words that stand in the field into an address; what they find begins at its first photo. */
  private write(words: HTMLInputElement, address: URL) {
    for (const far of ['from', 'to']) address.searchParams.delete(words.name.replace('find', far))
    const now = words.value.trim()
    if (now) address.searchParams.set(words.name, now)
    else address.searchParams.delete(words.name)
  }

  private press(link: HTMLAnchorElement) {
    const address = new URL(link.href)
    const { words } = this
    // Letters that were typed right before count, but where the words are let go.
    if (words && (link.classList.contains('clear') || link.classList.contains('whole'))) {
      words.value = ''
      if (link.classList.contains('clear')) words.focus()
    } else if (words) this.write(words, address)
    this.ask(address, false)
  }

  /** Somebody has gone back or forward: the words are those of the address, also while the keyboard is in the field. */
  goTo(href: string) {
    clearTimeout(this.timer)
    this.wanted = href
    if (this.words) this.words.value = new URL(href).searchParams.get(this.words.name) ?? ''
  }

  /** Looks for words while they are typed. */
  private finds(words: HTMLInputElement) {
    this.words = words
    const look = () => {
      const address = new URL(this.wanted)
      if ((address.searchParams.get(words.name) ?? '') === words.value.trim()) return
      this.write(words, address)
      this.ask(address, true)
    }
    words.addEventListener('input', () => {
      clearTimeout(this.timer)
      this.timer = window.setTimeout(look, pause)
    })
    words.form?.addEventListener('submit', (e) => {
      e.preventDefault()
      clearTimeout(this.timer)
      look()
    })
  }

  /** Says what is chosen, and how many photos each button finds now. */
  tell(view: View) {
    // Who is typing goes on typing.
    if (this.words && this.words !== document.activeElement) this.words.value = view.find
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
