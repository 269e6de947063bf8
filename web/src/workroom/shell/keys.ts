import { useEffect } from 'react'

/** Whether a key pressed now would type into something. */
function isTyping(target: EventTarget | null) {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))
  )
}

/** Listens for keys while nothing is being typed and no dialog is open. Names are those of `KeyboardEvent.key`, letters in lower case. */
export function useKeys(keys: Record<string, (e: KeyboardEvent) => void>, on = true) {
  useEffect(() => {
    if (!on) return
    function press(e: KeyboardEvent) {
      if (e.defaultPrevented || e.metaKey || e.ctrlKey || e.altKey || isTyping(e.target)) return
      if (document.querySelector('[role="dialog"]')) return
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
