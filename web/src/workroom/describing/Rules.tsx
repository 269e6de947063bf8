import { useState } from 'react'
import { Button } from '../../kit/Button'
import { w } from '../../words'
import { DatesRule } from './DatesRule'
import { useDescribe, usePreview } from './data'
import { Examples } from './Examples'
import type { Change } from './pattern'
import { CopyRule, LettersRule, PatternRule, ReplaceRule } from './wordRules'

const kinds = ['pattern', 'replace', 'letters', 'copy', 'dates'] as const
type Kind = (typeof kinds)[number]

/** Rules that write many words at once by what each photo is: said as a sentence, shown on examples, then done as one act. */
export function Rules() {
  const [kind, setKind] = useState<Kind>('pattern')
  const [changes, setChanges] = useState<readonly Change[] | null>(null)
  const preview = usePreview(changes)
  const describe = useDescribe()
  const Rule = {
    pattern: PatternRule,
    replace: ReplaceRule,
    letters: LettersRule,
    copy: CopyRule,
    dates: DatesRule,
  }[kind]
  const changed = preview.data?.changed ?? 0
  return (
    <section aria-label={w.describing.rules} className="mt-6 border-t border-line pt-4">
      <div
        role="tablist"
        aria-label={w.describing.rules}
        className="flex flex-wrap gap-x-5 gap-y-1 text-small"
      >
        {kinds.map((k) => (
          <button
            key={k}
            type="button"
            role="tab"
            aria-selected={k === kind}
            className={
              k === kind
                ? 'min-h-6 font-semibold underline decoration-plum decoration-2 underline-offset-[6px]'
                : 'min-h-6 text-quiet hover:text-ink'
            }
            onClick={() => {
              setChanges(null)
              setKind(k)
            }}
          >
            {w.describing.kinds[k]}
          </button>
        ))}
      </div>
      <div className="mt-4 font-display text-lead leading-[2] font-semibold">
        <Rule onSay={setChanges} />
      </div>
      {changes !== null && preview.error && <p className="mt-3 text-small">{preview.error.message}</p>}
      {changes !== null && preview.data && (
        <>
          <Examples preview={preview.data} />
          <Button
            look="next"
            className="mt-4"
            disabled={changed === 0 || describe.isPending}
            onClick={() => describe.mutate(changes)}
          >
            {kind === 'dates'
              ? w.describing.setIt(
                  preview.data.looked < preview.data.reached ? preview.data.reached : changed,
                )
              : w.describing.doIt(
                  preview.data.looked < preview.data.reached ? preview.data.reached : changed,
                )}
          </Button>
        </>
      )}
    </section>
  )
}
