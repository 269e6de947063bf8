/** Copies words, also where the browser has no clipboard for the page, because it was not sent over a safe line, or refuses it. */
export async function copy(words: string): Promise<boolean> {
  const copied = await navigator.clipboard?.writeText(words).then(
    () => true,
    () => false,
  )
  if (copied) return true
  const field = document.createElement('textarea')
  field.value = words
  // Within what is open above the page, for nothing else can be marked there.
  ;(document.querySelector('dialog[open]') ?? document.body).append(field)
  field.select()
  const done = document.execCommand('copy')
  field.remove()
  return done
}
