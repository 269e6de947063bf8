import { type ReactNode, useRef } from 'react'
import { Button } from './Button'

/** A verb that asks for one file: browsers choose files in no other way than by a field, which stands behind it. */
export function FileVerb({
  label,
  accept,
  onFile,
  children,
}: {
  /** What the field is called, whatever the verb says. */
  label: string
  /** Endings and types, as a file field has them. */
  accept: string
  onFile: (file: File) => void
  children: ReactNode
}) {
  const field = useRef<HTMLInputElement>(null)
  return (
    <>
      <Button look="word" onClick={() => field.current?.click()}>
        {children}
      </Button>
      <input
        ref={field}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0]
          e.target.value = ''
          if (file) onFile(file)
        }}
      />
    </>
  )
}
