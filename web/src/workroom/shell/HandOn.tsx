import { useRef, useState } from 'react'
import { Button } from '../../kit/Button'
import { copy } from '../../kit/copy'

/** A link that is shown this once, to be handed on: marked whole where it cannot be copied. */
export function HandOn({
  link,
  label,
  words: { copy: verb, copied, byHand },
}: {
  link: string
  label: string
  words: { copy: string; copied: string; byHand: string }
}) {
  const field = useRef<HTMLInputElement>(null)
  const [told, setTold] = useState('')
  async function take() {
    const isCopied = await copy(link)
    if (!isCopied) field.current?.select()
    setTold(isCopied ? copied : byHand)
  }
  return (
    <>
      <input
        ref={field}
        readOnly
        aria-label={label}
        value={link}
        className="w-full truncate border-b border-line bg-transparent py-1 text-small outline-none focus:border-plum"
        onFocus={(e) => e.currentTarget.select()}
      />
      <span className="mt-1 flex flex-wrap items-baseline gap-x-4">
        <Button look="word" onClick={() => void take()}>
          {verb}
        </Button>
        <span role="status" className="text-small text-quiet">
          {told}
        </span>
      </span>
    </>
  )
}
