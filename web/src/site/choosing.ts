import type { Api } from '../api/client'
import { w } from '../words/site'
import { type Answer, ChoiceDialog } from './choiceDialog'
import { button, make } from './dom'
import { keepElsewhere, tell } from './marks'

type State = Api['ChoosingState']

/** A page does not wait longer than this to know who keeps marks, milliseconds. */
const patience = 5000

/**
 * Has an album that asks for favourites keep the marks: on every device of whoever chooses they are the same, and who asked has
 * them. Where it does not ask whoever looks, the browser keeps its own.
 */
export async function enhanceChoosing(album: string): Promise<void> {
  const address = `/site/choosing/${album}`
  const read = async (): Promise<State | null> => {
    const answer = await fetch(address, { signal: AbortSignal.timeout(patience) })
    return answer.ok ? answer.json() : null
  }
  const first = await read()
  if (!first) return
  let state = first
  let chosen = new Set(state.photos.map((p) => p.id))
  let said = state.closed ?? ''

  /** Presses are answered one after the other, in their order. */
  let sending = Promise.resolve<unknown>(undefined)
  const send = (path: string, method: string, body?: object): Promise<Answer> => {
    const asked = sending.then(async () => {
      const answer = await fetch(address + path, {
        method,
        ...(body && { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
      }).catch(() => null)
      if (answer?.ok) return { done: true, sentence: '' }
      const problem: { title?: string } | null = (await answer?.json().catch(() => null)) ?? null
      return { done: false, sentence: problem?.title ?? w.markFailed }
    })
    sending = asked
    return asked
  }

  const dialog = new ChoiceDialog({
    read: () => learn(),
    turn: (photo, on) => (turn(photo, on) ? '' : said),
    send: async (words) => {
      const answer = await send('/sent', 'POST', { words })
      await learn()
      return answer
    },
  })

  /** So often something was pressed here. */
  let pressed = 0

  /** Reads what is kept, for others may choose by the same link; again where something was pressed meanwhile, which the answer may not know. */
  async function learn(): Promise<State> {
    await sending
    const before = pressed
    const next = await read().catch(() => null)
    if (pressed !== before) return learn()
    if (next) {
      state = next
      chosen = new Set(next.photos.map((p) => p.id))
      said = next.closed ?? ''
    }
    show()
    tell()
    return state
  }

  function turn(photo: string, on: boolean): boolean {
    if (state.closed) said = state.closed
    else if (on && chosen.size >= state.most) said = state.full
    else {
      said = ''
      pressed++
      if (on) chosen.add(photo)
      else chosen.delete(photo)
      void send(`/${photo}`, on ? 'PUT' : 'DELETE').then(async ({ done, sentence }) => {
        if (done) return
        await learn()
        said = sentence
        show()
      })
    }
    show()
    tell()
    return said === ''
  }

  const hint = () => said || (chosen.size === 0 ? w.howToChoose : '')
  // What is told stands in several places, of which it is read out in one.
  const told = make('p', { className: 'unseen', role: 'status' })
  document.body.append(told)

  /** Where it stands how many are chosen; the button stays the same, so that the keyboard finds back to it. */
  const lines: { element: HTMLElement; show: () => void }[] = []
  function addLine(className: string) {
    const count = make('span')
    const open = button('', () => void dialog.open())
    const why = make('span', { className: 'choice-said' })
    const of = make('span', { className: 'choice-count' }, make('span', { className: 'ring-sign' }), count)
    const element = make('div', { className }, of, open, why)
    lines.push({
      element,
      show: () => {
        count.textContent = w.chosen(chosen.size, state.most, state.isLimited)
        open.textContent = state.closed ? w.seeSent : w.seeChosen
        why.textContent = hint()
        why.hidden = hint() === ''
      },
    })
    return element
  }
  function show() {
    document.documentElement.classList.toggle('choice-closed', state.closed !== null)
    for (const line of lines) line.show()
    told.textContent = `${w.chosen(chosen.size, state.most, state.isLimited)}. ${hint()}`
  }

  for (const asks of document.querySelectorAll<HTMLElement>('[data-asks]'))
    asks.append(addLine('choice-line'))
  // What stands at the foot of the window is there wherever one is on the page.
  const foot = addLine('choice-line choice-foot')
  document.body.append(foot)
  // Where the same stands on the page already, it does not stand in the way.
  const there = new Set<Element>()
  const seen = new IntersectionObserver((entries) => {
    for (const { target, isIntersecting } of entries)
      if (isIntersecting) there.add(target)
      else there.delete(target)
    foot.classList.toggle('away', there.size > 0)
  })
  for (const { element } of lines) if (element !== foot) seen.observe(element)
  keepElsewhere({
    has: (photo) => chosen.has(photo),
    turn,
    takes: (place) => place.closest<HTMLElement>('[data-choosing]')?.dataset.choosing === album,
  })
  show()
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') void learn()
  })
}
