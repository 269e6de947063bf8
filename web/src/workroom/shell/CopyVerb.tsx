import { useState } from 'react'
import { Button } from '../../kit/Button'
import { copy } from '../../kit/copy'

/** Copies something, and says beside it whether that went. */
export function CopyVerb({
  text,
  children,
  done,
  byHand,
}: {
  text: string
  children: string
  done: string
  /** Where the browser refuses it. */
  byHand: string
}) {
  const [told, setTold] = useState('')
  return (
    <>
      <span aria-live="polite" className="text-quiet">
        {told}
      </span>
      <Button look="word" onClick={async () => setTold((await copy(text)) ? done : byHand)}>
        {children}
      </Button>
    </>
  )
}
