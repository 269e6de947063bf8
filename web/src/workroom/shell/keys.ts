import { useEffect, useSyncExternalStore } from 'react'

/** Whether a key pressed now would type into something. */
function isTyping(target: EventTarget | null) {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  )
}

const kept = 'jovitar-bare-keys'
const listeners = new Set<() => void>()

/** Whether letters, digits and signs act when they are pressed alone (WCAG 2.2, 2.1.4: they can be switched off). Kept for this browser. */
const bareKeys = () => localStorage.getItem(kept) !== 'off'

export function useBareKeys(): [boolean, (on: boolean) => void] {
  const on = useSyncExternalStore((listener) => {
    listeners.add(listener)
    return () => listeners.delete(listener)
  }, bareKeys)
  useEffect(() => {
    document.documentElement.dataset.bareKeys = on ? 'on' : 'off'
  }, [on])
  return [
    on,
    (now) => {
      localStorage.setItem(kept, now ? 'on' : 'off')
      for (const listener of listeners) listener()
    },
  ]
}

/** Listens for keys while nothing is being typed and no dialog is open. Names are those of `KeyboardEvent.key`, letters in lower case. */
export function useKeys(keys: Record<string, (e: KeyboardEvent) => void>, on = true) {
  useEffect(() => {
    if (!on) return
    function press(e: KeyboardEvent) {
      if (e.defaultPrevented || e.metaKey || e.ctrlKey || e.altKey || isTyping(e.target)) return
      if (document.querySelector('[role="dialog"]')) return
      if (e.key.length === 1 && e.key !== ' ' && !bareKeys()) return
      const act = keys[e.key.length === 1 ? e.key.toLowerCase() : e.key]
      if (!act) return
      // Enter and Space on a button or a link belong to it.
      if (
        (e.key === 'Enter' || e.key === ' ') &&
        e.target instanceof HTMLElement &&
        e.target.closest('button, a, [role="option"]') &&
        !e.target.closest('[data-frame]')
      )
        return
      e.preventDefault()
      act(e)
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  })
}
