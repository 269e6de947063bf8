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
