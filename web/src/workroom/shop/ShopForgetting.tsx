import { useState } from 'react'
import { AskDialog } from '../../kit/AskDialog'
import { NumberWord } from '../../kit/NumberWord'
import { WordSelect } from '../../kit/WordSelect'
import { w } from '../../words'
import type { useShop } from './useShop'

const offered = [6, 12, 24, 36, 60, 120]

/** How long it is kept who bought; where that forgets more than before, it is asked first. */
export function ShopForgetting({ work }: { work: ReturnType<typeof useShop> }) {
  const [asking, setAsking] = useState<number | null>(null)
  const { shop, change } = work
  const { forgetting } = shop
  if (!forgetting) return null
  const now = forgetting.months ?? null
  const say = (months: number | null) => change({ forgetting: { ...forgetting, months } })
  const choices = [...new Set(now === null ? offered : [...offered, now])].sort((a, b) => a - b)
  return (
    <>
      <p className="leading-[1.9]">
        {w.shop.forgotten}{' '}
        <WordSelect
          label={w.shop.forgottenLabel}
          value={now === null ? '' : String(now)}
          choices={[
            ['', w.shop.forgottenWhen(null)] as const,
            ...choices.map((n) => [String(n), w.shop.forgottenWhen(n)] as const),
          ]}
          onChoose={(chosen) => {
            const next = chosen === '' ? null : Number(chosen)
            if (next !== null && (now === null || next < now)) setAsking(next)
            else say(next)
          }}
        />
        . {w.shop.invoicesName}{' '}
        <NumberWord
          label={w.shop.invoicesNameLabel}
          value={forgetting.invoiceYears ?? 10}
          least={0}
          most={30}
          onSay={(invoiceYears) => change({ forgetting: { ...forgetting, invoiceYears } })}
        />{' '}
        {w.shop.invoicesNameEnd}
      </p>
      <p className="mt-1 text-small text-quiet">{w.shop.forgottenLead}</p>
      <AskDialog
        open={asking !== null}
        title={w.shop.forgottenAsk}
        text={[w.shop.forgottenText(asking ?? 0)]}
        say={w.shop.forgottenSay}
        not={w.shop.forgottenNot}
        onSay={() => say(asking)}
        onClose={() => setAsking(null)}
      />
    </>
  )
}
