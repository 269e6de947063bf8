/** Copies words, also where the page is not sent over a safe line and has no clipboard of its own. */
export async function copy(words: string): Promise<void> {
  if (navigator.clipboard) return navigator.clipboard.writeText(words)
  const field = document.createElement('textarea')
  field.value = words
  // Within what is open above the page, for nothing else can be marked there.
  ;(document.querySelector('dialog[open]') ?? document.body).append(field)
  field.select()
  document.execCommand('copy')
  field.remove()
}
