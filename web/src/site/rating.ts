import { w } from '../words/site'
import { toAddress } from './bytes'
import { button, make } from './dom'

/** What the browser calls itself where it rates: made up when it first does, told to nobody else. */
const kept = 'visitor'
/** What it gave each photo. */
const given = 'ratings'

const values = [1, 2, 3, 4, 5]

function visitor(): string {
  const known = localStorage.getItem(kept)
  if (known) return known
  const made = toAddress(crypto.getRandomValues(new Uint8Array(16)))
  localStorage.setItem(kept, made)
  return made
}

const read = (): Record<string, number> => JSON.parse(localStorage.getItem(given) ?? '{}') ?? {}

/** On a photo's own page visitors say from 1 to 5 what they think of it. A browser that keeps nothing could say so again and again: it has no buttons. */
export function enhanceRating() {
  const place = document.querySelector<HTMLElement>('[data-rate]')
  const photo = place?.dataset.rate
  const line = place?.querySelector('.rated')
  if (!place || !photo || !line) return
  let mine = 0
  try {
    mine = read()[photo] ?? 0
  } catch {
    return
  }
  const buttons = values.map((value) =>
    button(String(value), () => void rate(value), { ariaLabel: w.rate(value) }),
  )
  const show = () => {
    for (const [i, each] of buttons.entries()) {
      each.ariaPressed = String(mine === values[i])
      each.classList.toggle('given', mine >= (values[i] ?? 0))
    }
  }
  async function rate(value: number) {
    // The same once more takes it back.
    const next = value === mine ? null : value
    const answer = await fetch(`/site/rate/${photo}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ visitor: visitor(), value: next }),
    }).catch(() => null)
    const told: { line?: string; title?: string } | null = (await answer?.json().catch(() => null)) ?? null
    if (!line) return
    if (!answer?.ok) {
      line.textContent = told?.title ?? w.rateFailed
      return
    }
    mine = next ?? 0
    const all = read()
    if (next === null) delete all[photo ?? '']
    else all[photo ?? ''] = next
    localStorage.setItem(given, JSON.stringify(all))
    line.textContent = told?.line ?? ''
    show()
  }
  show()
  const scale = make('div', { className: 'scale', role: 'group', ariaLabel: w.rateLabel }, ...buttons)
  place.prepend(make('p', {}, w.rateLabel), scale)
}
