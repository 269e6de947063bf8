import './shop.css'
import './buying.css'
import './check-out.css'
import './several.css'
import { enhanceBuying } from './buying'

const buying = document.querySelector<HTMLElement>('[data-buying]')
if (buying) enhanceBuying(buying)

// Whoever has just paid waits here until the payment service has said so: a few looks, and then by hand.
const paying = document.querySelector('[data-paying]')
if (paying) {
  const looks = Number(sessionStorage.getItem(location.pathname) ?? 0)
  if (looks < 20) {
    sessionStorage.setItem(location.pathname, String(looks + 1))
    setTimeout(() => location.reload(), 3000)
  }
}

// What is said of a basket or of where it goes is counted at once: its button is for those without scripts.
for (const field of document.querySelectorAll<HTMLInputElement>('[data-basket] input[type=number]'))
  field.addEventListener('change', () => field.form?.requestSubmit())
const look = document.querySelector<HTMLButtonElement>('[data-check-out] [value=look]')
document
  .querySelector('[data-check-out] select')
  ?.addEventListener('change', () => look?.form?.requestSubmit(look))
for (const form of document.querySelectorAll<HTMLElement>('[data-basket], [data-check-out]'))
  form.classList.add('counts-itself')
