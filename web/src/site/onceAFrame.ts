/** Work that is asked for many times between two frames is done once, before the next. */
export function onceAFrame(work: () => void): () => void {
  let asked = false
  return () => {
    if (asked) return
    asked = true
    requestAnimationFrame(() => {
      asked = false
      work()
    })
  }
}

/** Before the next frame of the screen; at once where none is drawn. */
export const nextFrame = () =>
  document.hidden ? Promise.resolve() : new Promise<unknown>(requestAnimationFrame)

/** Lets the browser do what else waits: work in two parts is no long task. */
export const rest = () => new Promise<void>((go) => setTimeout(go))
