import { Button } from '../../kit/Button'

/** Asks once more, where it was pressed. */
export function Sure({
  says,
  verb,
  keep,
  isBusy,
  onYes,
  onNo,
}: {
  says: string
  verb: string
  /** What leaves it. */
  keep: string
  isBusy: boolean
  onYes: () => void
  onNo: () => void
}) {
  return (
    <p className="mt-2 flex flex-wrap items-baseline gap-x-4 border-l-2 border-plum pl-4">
      {says}
      <Button disabled={isBusy} onClick={onYes}>
        {verb}
      </Button>
      <Button look="word" onClick={onNo}>
        {keep}
      </Button>
    </p>
  )
}
