import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import type { Api } from '../../api/client'
import { Button } from '../../kit/Button'
import { WordSelect } from '../../kit/WordSelect'
import { WrittenLines } from '../../kit/WrittenLines'
import { w } from '../../words'
import { useSession } from '../shell/data'
import { StaleVerbs } from '../shell/Stale'
import { Heading } from '../shell/Station'
import { ShopForgetting } from './ShopForgetting'
import { ShopInvoices } from './ShopInvoices'
import { ShopPostage } from './ShopPostage'
import { ShopPrints } from './ShopPrints'
import { ShopTax } from './ShopTax'
import { readShop, shopKey, useShop } from './useShop'

/** How the site sells: read as sentences, and set in them. */
export function ShopStation() {
  const seen = useQuery({ queryKey: shopKey, queryFn: readShop })
  if (seen.error && !seen.data) return <p className="p-10">{seen.error.message}</p>
  return seen.data ? <Opened seen={seen.data} /> : null
}

function Opened({ seen }: { seen: Api['ShopSeen'] }) {
  const work = useShop(seen)
  const { shop, state, fault, faults, change, changePostage } = work
  const owner = useSession().data?.role === 'owner'
  return (
    <div className="px-[30px] pt-7 pb-16">
      <Heading
        title={w.shop.title}
        lead={w.shop.lead}
        right={
          owner && (
            <Button look={shop.isOpen ? 'plain' : 'next'} onClick={() => change({ isOpen: !shop.isOpen })}>
              {shop.isOpen ? w.shop.closeIt : w.shop.openIt}
            </Button>
          )
        }
      />
      <p className="mt-4 max-w-[44rem] border-l-[3px] border-plum pl-3 font-semibold">
        {seen.shop.isOpen ? w.shop.isOpen : w.shop.isClosed}
      </p>
      <p className="mt-2 flex min-h-6 flex-wrap items-baseline gap-x-5 text-small">
        <span role="status" className="text-quiet">
          {!owner
            ? w.shop.forOwner
            : state === 'saved'
              ? w.shop.saved
              : state === 'stale'
                ? w.menu.stale
                : w.plate.unsaved}
        </span>
        {state === 'stale' && (
          <StaleVerbs onReload={() => void work.takeTheirs()} onOverwrite={() => void work.overwrite()} />
        )}
        {fault && !faults.invoices && <span className="font-semibold">{fault}</span>}
      </p>
      <fieldset disabled={!owner} className="mt-4 grid max-w-[44rem] gap-9">
        <div>
          <p className="leading-[1.9]">
            {w.shop.sellsIn}{' '}
            <WordSelect
              label={w.shop.currency}
              value={shop.currency}
              choices={seen.currencies.map((code) => [code, code] as const)}
              onChoose={(currency) => change({ currency })}
            />
            {w.shop.from}{' '}
            <WordSelect
              label={w.shop.home}
              value={shop.postage.home}
              choices={[
                ...(shop.postage.home ? [] : [['', w.shop.nowhere] as const]),
                ...seen.countries.map((c) => [c.code, c.name] as const),
              ]}
              onChoose={(home) => changePostage({ home })}
            />
            .
          </p>
          <p className="text-small text-quiet">{w.shop.otherCurrency}</p>
        </div>
        <Section title={w.shop.postage}>
          <ShopPostage work={work} seen={seen} />
        </Section>
        <Section title={w.shop.tax}>
          <ShopTax work={work} seen={seen} />
        </Section>
        <Section title={w.shop.prints}>
          <ShopPrints work={work} />
        </Section>
        <Section title={w.shop.payment}>
          {seen.hasPayments || shop.isPaidOnline ? (
            <p className="leading-[1.9]">
              {w.shop.buyersPay}{' '}
              <WordSelect
                label={w.shop.online}
                value={shop.isPaidOnline ? 'yes' : 'no'}
                choices={(['yes', 'no'] as const).map((one) => [one, w.shop.onlineKinds[one]] as const)}
                onChoose={(one) => change({ isPaidOnline: one === 'yes' })}
              />
              {seen.hasPayments ? '.' : w.shop.serviceGone}
            </p>
          ) : (
            <p className="text-small text-quiet">{w.shop.noService}</p>
          )}
          <WrittenLines
            label={w.shop.otherwise}
            lead={shop.isPaidOnline ? w.shop.otherwiseLead : w.shop.paymentLead}
            value={shop.payment}
            rows={4}
            most={1000}
            hint={w.shop.paymentHint}
            onSay={(payment) => change({ payment })}
          />
        </Section>
        <Section title={w.shop.invoices}>
          <ShopInvoices work={work} last={seen.lastInvoice} />
        </Section>
        <Section title={w.shop.forgetting}>
          <ShopForgetting work={work} />
        </Section>
      </fieldset>
    </div>
  )
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h2 className="mb-2 text-lead font-semibold">{title}</h2>
      {children}
    </section>
  )
}
